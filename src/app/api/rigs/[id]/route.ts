/** GET: a rig profile as a file. */
import { loadRig } from '@/server/station/station.ts';
import { idOf } from '../../../paging.ts';
import { jsonFile, noSuch } from '../../jsonFile.ts';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const id = idOf((await params).id);
  const rig = id === undefined ? null : await loadRig(id);
  return rig ? jsonFile(rig.name, rig.profile) : noSuch('rig');
}
