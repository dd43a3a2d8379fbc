/** GET: a microphone as a file. */
import { loadMicrophone } from '@/server/station/station.ts';
import { idOf } from '../../../paging.ts';
import { jsonFile, noSuch } from '../../jsonFile.ts';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const id = idOf((await params).id);
  const microphone = id === undefined ? null : await loadMicrophone(id);
  return microphone ? jsonFile(microphone.name, microphone.profile) : noSuch('microphone');
}
