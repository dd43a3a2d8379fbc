/** A JSON file to keep, as an HTTP response. */
export const jsonFile = (name: string, value: unknown): Response =>
  new Response(`${JSON.stringify(value, null, 1)}\n`, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.json`)}`,
    },
  });

export const noSuch = (what: string): Response => Response.json({ message: `There is no such ${what}.` }, { status: 404 });
