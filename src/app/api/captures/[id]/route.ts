/** GET: a stored recording, whole or a range of its bytes; or as SigMF (?as=sigmf-meta, sigmf-data), or its measured curve (?as=curve). */
import { type Answer, answer, respond } from '@/server/answer.ts';
import { captureAs, type SavedFile } from '@/server/captureAs.ts';
import { storedBytes, streamCapture } from '@/server/captureBytes.ts';
import { database } from '@/server/database.ts';

export const dynamic = 'force-dynamic';

const MOST_AT_ONCE = 8 << 20;

const attachment = (name: string) => `attachment; filename*=UTF-8''${encodeURIComponent(name)}`;

function saved(result: Answer<SavedFile>): Response {
  if (!result.ok) return respond(result);
  const { name, type, body } = result.value;
  return new Response(body, {
    headers: { 'content-type': type, 'content-disposition': attachment(name), 'x-content-type-options': 'nosniff' },
  });
}

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { models } = database();
  const { id } = await params;
  const capture = /^\d{1,9}$/.test(id) ? await models.captures.findByPk(Number(id)) : null;
  if (!capture) return Response.json({ message: 'There is no such recording.' }, { status: 404 });
  const as = new URL(request.url).searchParams.get('as');
  if (as !== null) return saved(await answer(() => captureAs(capture, as)));
  const headers = {
    'content-type': /\.(?:csv|txt)$/i.test(capture.fileName) ? 'text/csv; charset=utf-8' : 'audio/wav',
    'accept-ranges': 'bytes',
    'content-disposition': attachment(capture.fileName),
    'x-content-type-options': 'nosniff',
    etag: `"${capture.sha256}"`,
  };
  const range = /^bytes=(\d+)-(\d*)$/.exec(request.headers.get('range') ?? '');
  if (!range) {
    return new Response(streamCapture(models, capture.id), { headers: { ...headers, 'content-length': String(capture.bytes) } });
  }
  const from = Number(range[1]);
  const to = Math.min(range[2] ? Number(range[2]) : capture.bytes - 1, capture.bytes - 1, from + MOST_AT_ONCE - 1);
  if (from > to) return new Response(null, { status: 416, headers: { 'content-range': `bytes */${capture.bytes}` } });
  const bytes = await storedBytes(models, capture.id, capture.bytes).read(from, to - from + 1);
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    status: 206,
    headers: { ...headers, 'content-range': `bytes ${from}-${to}/${capture.bytes}`, 'content-length': String(bytes.length) },
  });
}
