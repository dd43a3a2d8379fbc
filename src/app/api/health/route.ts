/** Says that the server and its database answer. */
import { database } from '@/server/db/database.ts';

export async function GET(): Promise<Response> {
  try {
    await database().sequelize.authenticate();
    return Response.json({ ok: true });
  } catch {
    return Response.json({ ok: false, message: 'The database does not answer.' }, { status: 503 });
  }
}
