/** GET: a stored recording, whole or a range of its bytes; or as SigMF (?as=sigmf-meta, sigmf-data), or its measured curve (?as=curve). */
import { database } from '@/server/db/database.ts';
import type { Capture } from '@/server/db/models.ts';
import { captureAs } from '@/server/overs/captureAs.ts';
import { storedBytes, streamCapture } from '@/server/overs/captureBytes.ts';
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';
import { FILE_LENGTH } from '@/server/web/fileLength.ts';
import { idOf } from '../../../paging.ts';

const MOST_AT_ONCE = 8 << 20;

const attachment = (name: string) => `attachment; filename*=UTF-8''${encodeURIComponent(name)}`;

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(async () => {
    const { models } = database();
    const id = idOf((await params).id);
    const capture = id === undefined ? null : await models.captures.findByPk(id);
    if (!capture) throw new Refused('There is no such recording.', 404);
    const as = new URL(request.url).searchParams.get('as');
    if (as === null) return recording(capture, request.headers.get('range') ?? '');
    const { name, type, body } = await captureAs(capture, as);
    return new Response(body, { headers: { 'content-type': type, 'content-disposition': attachment(name) } });
  });

async function recording(capture: Capture, asked: string): Promise<Response> {
  const { models } = database();
  const headers = {
    'content-type': /\.(?:csv|txt)$/i.test(capture.fileName) ? 'text/csv; charset=utf-8' : 'audio/wav',
    'accept-ranges': 'bytes',
    'content-disposition': attachment(capture.fileName),
    etag: `"${capture.sha256}"`,
  };
  const range = /^bytes=(\d{1,15})-(\d{0,15})$/.exec(asked);
  if (!range) {
    return new Response(streamCapture(models, capture.id), { headers: { ...headers, [FILE_LENGTH]: String(capture.bytes) } });
  }
  const from = Number(range[1]);
  const to = Math.min(range[2] ? Number(range[2]) : capture.bytes - 1, capture.bytes - 1, from + MOST_AT_ONCE - 1);
  if (from > to) return new Response(null, { status: 416, headers: { 'content-range': `bytes */${capture.bytes}` } });
  const bytes = await storedBytes(models, capture.id, capture.bytes).read(from, to - from + 1);
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    status: 206,
    headers: { ...headers, 'content-range': `bytes ${from}-${to}/${capture.bytes}`, [FILE_LENGTH]: String(bytes.length) },
  });
}
