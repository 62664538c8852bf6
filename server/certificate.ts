/** The certificate of this server for other machines: made once, kept, and made anew when it is about to end or the machine has other addresses. */
import { createHash, X509Certificate } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { generate } from 'selfsigned';
import { isRecord } from '#core/schema/record';

export interface Certificate {
  key: string;
  cert: string;
}

const DAY_MS = 86_400_000;
/** How long one counts, days: browsers take no longer ones. */
const DAYS = 390;
/** It is made anew this long before it ends. */
const RENEW_MS = 14 * DAY_MS;

/** SHA-256 of a certificate, as browsers show it. */
export const fingerprintOf = ({ cert }: Certificate): string =>
  (createHash('sha256').update(new X509Certificate(cert).raw).digest('hex').toUpperCase().match(/../g) ?? []).join(':');

/** True when it may go on being used by a machine with these addresses. */
function isGood({ key, cert }: Certificate, addresses: readonly string[], now: number): boolean {
  try {
    const read = new X509Certificate(cert);
    const named = read.subjectAltName ?? '';
    return (
      new Date(read.validTo).getTime() - now > RENEW_MS &&
      new Date(read.validFrom).getTime() <= now &&
      addresses.every((a) => named.includes(`IP Address:${a}`)) &&
      key.includes('PRIVATE KEY')
    );
  } catch {
    return false;
  }
}

async function kept(path: string): Promise<Certificate | null> {
  try {
    const raw: unknown = JSON.parse(await readFile(path, 'utf8'));
    return isRecord(raw) && typeof raw.key === 'string' && typeof raw.cert === 'string' ? { key: raw.key, cert: raw.cert } : null;
  } catch {
    return null;
  }
}

async function make(addresses: readonly string[], now: number): Promise<Certificate> {
  const { private: key, cert } = await generate([{ name: 'commonName', value: 'Bivoca' }], {
    keyType: 'ec',
    curve: 'P-256',
    algorithm: 'sha256',
    notBeforeDate: new Date(now - DAY_MS),
    notAfterDate: new Date(now + DAYS * DAY_MS),
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [{ type: 2, value: 'localhost' }, ...addresses.map((ip) => ({ type: 7 as const, ip }))],
      },
    ],
  });
  return { key, cert };
}

/** The certificate in the file at `path`, made where there is none that is good. A file that cannot be written costs only that it is made anew. */
export async function certificateAt(path: string, addresses: readonly string[], now = Date.now()): Promise<Certificate> {
  const before = await kept(path);
  if (before && isGood(before, addresses, now)) return before;
  const made = await make(addresses, now);
  try {
    await mkdir(dirname(path), { recursive: true });
    await writeFile(`${path}.new`, JSON.stringify(made), { mode: 0o600 });
    await rename(`${path}.new`, path);
  } catch (error) {
    console.error(`The certificate cannot be kept: ${(error as Error).message}`);
  }
  return made;
}
