import { describe, expect, it } from 'vitest';
import { hostsOf, type Knock, refusalAtDoor } from './door.ts';

const doors = { port: 3000, hosts: [] };
const knock = (headers: Knock['headers'], rest: Partial<Knock> = {}) =>
  refusalAtDoor({ method: 'GET', url: '/overs', headers: { host: '127.0.0.1:3000', ...headers }, ...rest }, doors)?.status ?? 200;

describe('the door', () => {
  it.each(['127.0.0.1:3000', 'localhost:3000', 'LOCALHOST:3000', '[::1]:3000'])('answers to %s', (host) => {
    expect(knock({ host })).toBe(200);
  });

  it.each([
    'evil.example:3000',
    '127.0.0.1',
    'localhost:3001',
    '127.0.0.1.evil.example:3000',
    '0.0.0.0:3000',
    'localhost.:3000',
    '',
    'a@localhost:3000',
  ])('does not answer to "%s"', (host) => {
    expect(knock({ host })).toBe(421);
  });

  it('without a Host it does not answer', () => expect(knock({ host: undefined })).toBe(421));

  it('port 80 goes without saying', () => {
    expect(refusalAtDoor({ method: 'GET', url: '/', headers: { host: 'localhost' } }, { port: 80, hosts: [] })).toBeNull();
  });

  it('names of DIALTUNE_HOSTS are let in, with our port, a port of their own or none', () => {
    const own = { port: 3000, hosts: hostsOf(' Shack.example, far.example:8443 ') };
    const of = (host: string) => refusalAtDoor({ method: 'GET', url: '/', headers: { host } }, own)?.status ?? 200;
    expect(['shack.example', 'shack.example:3000', 'far.example:8443', '127.0.0.1:3000'].map(of)).toEqual([200, 200, 200, 200]);
    expect(['shack.example:1', 'far.example', 'x.shack.example', 'example'].map(of)).toEqual([421, 421, 421, 421]);
  });

  it.each([
    ['another port', 'http://127.0.0.1:4000'],
    ['another of our names', 'http://localhost:3000'],
    ['another site', 'https://evil.example'],
    ['a sandbox', 'null'],
    ['nonsense', 'http://127.0.0.1:3000/x'],
  ])('an Origin of %s is refused, whatever the method', (_, origin) => {
    for (const method of ['GET', 'HEAD', 'POST']) expect(knock({ origin }, { method })).toBe(403);
  });

  it('our own Origin is let in', () => expect(knock({ origin: 'http://127.0.0.1:3000' }, { method: 'POST' })).toBe(200));

  it('requests that a browser sends for another page are refused; a link that is followed to a page is not', () => {
    for (const site of ['cross-site', 'same-site']) {
      expect(knock({ 'sec-fetch-site': site, 'sec-fetch-mode': 'no-cors', 'sec-fetch-dest': 'image' })).toBe(403);
      expect(knock({ 'sec-fetch-site': site, 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'iframe' })).toBe(403);
      const link = { 'sec-fetch-site': site, 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' };
      expect(knock(link)).toBe(200);
      expect(knock(link, { method: 'POST' })).toBe(403);
      for (const url of ['/api/station', '//api/station', '/API/overs.csv', '/api?x']) expect(knock(link, { url })).toBe(403);
    }
    for (const site of ['same-origin', 'none']) expect(knock({ 'sec-fetch-site': site }, { url: '/api/station' })).toBe(200);
  });

  it('methods and addresses that are none are refused', () => {
    for (const method of ['TRACE', 'PUT', 'DELETE', 'OPTIONS', 'CONNECT', 'PATCH', 'get']) expect(knock({}, { method })).toBe(405);
    for (const url of ['http://evil.example/', '*', '']) expect(knock({}, { url })).toBe(400);
  });
});
