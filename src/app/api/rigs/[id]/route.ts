/** GET: a rig profile as a file. */
import { database } from '@/server/database.ts';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const rig = /^\d{1,9}$/.test(id) ? await database().models.rigs.findByPk(Number(id)) : null;
  if (!rig) return Response.json({ message: 'There is no such rig.' }, { status: 404 });
  return new Response(`${JSON.stringify(rig.profile, null, 1)}\n`, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${rig.name}.json`)}`,
    },
  });
}
