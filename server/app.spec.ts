import { createHash } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import { PAGE_ADDRESSES } from '../app/src/pages/addresses';
import { createApp } from './app';

let server: Server;
let address = '';

beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fendro-server-'));
  writeFileSync(join(folder, 'index.html'), '<html><body><fd-root ngCspNonce="__CSP_NONCE__"></fd-root></body></html>');
  writeFileSync(
    join(folder, 'ngsw.json'),
    JSON.stringify({ configVersion: 1, hashTable: { '/index.html': 'old', '/main.js': 'kept' } }),
  );
  for (const name of ['main-ABCDEFGH.js', 'chunk-a_B3-fgh.js'])
    writeFileSync(join(folder, name), `// ${'weather '.repeat(400)}`);
  const styles = `/* ${'weather '.repeat(400)} */`;
  writeFileSync(join(folder, 'styles-ABCDEFGH.css'), styles);
  writeFileSync(join(folder, 'styles-ABCDEFGH.css.br'), brotliCompressSync(styles));
  server = createApp(folder).listen(0);
  await new Promise((resolve) => server.once('listening', resolve));
  address = `http://localhost:${(server.address() as AddressInfo).port}`;
});

afterAll(() => {
  server.close();
});

describe('the server', () => {
  it('puts one nonce into the page, its policy and the offline list', async () => {
    const response = await fetch(address);
    const page = await response.text();
    const nonce = /ngCspNonce="([^"]+)"/.exec(page)?.[1] ?? '';
    expect(nonce.length).toBeGreaterThan(20);
    const policy = response.headers.get('content-security-policy') ?? '';
    expect(policy).toContain(`'nonce-${nonce}'`);
    expect(policy).toContain("require-trusted-types-for 'script'");
    expect(policy).not.toContain('unsafe-inline');
    const list = (await (await fetch(`${address}/ngsw.json`)).json()) as { hashTable: Record<string, string> };
    expect(list.hashTable).toEqual({
      '/index.html': createHash('sha1').update(page).digest('hex'),
      '/main.js': 'kept',
    });
  });

  it('isolates the page and says nothing of what it runs on', async () => {
    const { headers } = await fetch(address);
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('permissions-policy')).toContain('camera=()');
    expect(headers.get('x-powered-by')).toBeNull();
  });

  it('compresses, and lets hashed files be kept for good', async () => {
    for (const file of ['main-ABCDEFGH.js', 'chunk-a_B3-fgh.js']) {
      const response = await fetch(`${address}/${file}`);
      expect(response.headers.get('content-encoding')).toBe('gzip');
      expect(response.headers.get('cache-control')).toContain('immutable');
    }
  });

  it('sends what was compressed beforehand as it is, and compresses it anew for who cannot read that', async () => {
    for (const encoding of ['br', 'gzip']) {
      const response = await fetch(`${address}/styles-ABCDEFGH.css`, { headers: { 'accept-encoding': encoding } });
      expect(response.headers.get('content-encoding')).toBe(encoding);
      expect(response.headers.get('content-type')).toContain('text/css');
      expect(response.headers.get('cache-control')).toContain('immutable');
      expect(await response.text()).toContain('weather weather');
    }
  });

  it('answers for its health, its pages and what is not there', async () => {
    expect(await (await fetch(`${address}/api/health`)).json()).toEqual({ ok: true });
    for (const page of PAGE_ADDRESSES) expect((await fetch(`${address}/${page}`)).status).toBe(200);
    expect((await fetch(`${address}/sounds/theremin.sf3`)).status).toBe(404);
    expect(await (await fetch(`${address}/nowhere`, { headers: { accept: 'text/html' } })).text()).toContain(
      'nothing at this address',
    );
  });
});
