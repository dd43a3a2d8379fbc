/** One at a time among all copies of the app on one database. The lock goes with its connection: a dead process holds none. */
import { QueryTypes, type Sequelize } from 'sequelize';

export type Locked<T> = { readonly got: true; readonly value: T } | { readonly got: false };

/**
 * Does the work while it holds the lock of that name.
 * @param waitS how long to wait for whoever holds it now; 0 leaves it to them at once
 */
export async function withLock<T>(sequelize: Sequelize, name: string, waitS: number, work: () => Promise<T>): Promise<Locked<T>> {
  // A transaction keeps the connection, and so the lock; nothing is read or written in it.
  return sequelize.transaction(async (transaction) => {
    const ask = (sql: string) =>
      sequelize.query<{ got: number | null }>(sql, { type: QueryTypes.SELECT, transaction, replacements: { name, waitS } });
    // A server may hold several databases; a lock's name may have 64 characters.
    const [{ got }] = await ask("SELECT GET_LOCK(SHA1(CONCAT(DATABASE(), ' ', :name)), :waitS) AS got");
    if (Number(got) !== 1) return { got: false };
    try {
      return { got: true, value: await work() };
    } finally {
      await ask("SELECT RELEASE_LOCK(SHA1(CONCAT(DATABASE(), ' ', :name))) AS got");
    }
  });
}
