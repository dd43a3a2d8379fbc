/** GET: a microphone as a file. */
import { loadMicrophone } from '@/server/station/station.ts';
import { type Asked, profileFile } from '../../profileFile.ts';

export const GET = (_: Request, asked: Asked): Promise<Response> =>
  profileFile('microphone', asked, async (id) => {
    const microphone = await loadMicrophone(id);
    return microphone && { name: microphone.name, value: microphone.profile };
  });
