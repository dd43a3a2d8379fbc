/** GET: a rig as a file. */
import { loadRig } from '@/server/station/station.ts';
import { type Asked, profileFile } from '../../profileFile.ts';

export const GET = (_: Request, asked: Asked): Promise<Response> =>
  profileFile('rig', asked, async (id) => {
    const rig = await loadRig(id);
    return rig && { name: rig.name, value: rig.profile };
  });
