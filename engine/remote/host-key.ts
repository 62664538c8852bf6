/** The secret by which a page proves to its server that it may run a show. */

const KEY_MS = 5000;

/** The secret that only a page of this server gets. @throws Error when the server does not give it. */
export const fetchHostKey = async (): Promise<string> => (await ask()).key;

/** A file that a panel has sent to the server. @throws Error when it is not there, or the server does not give it */
export async function fetchUpload(id: string, name: string, type: string): Promise<File> {
  const response = await fetch(`/api/panel/files/${id}`, {
    headers: { authorization: `Bearer ${await fetchHostKey()}` },
    cache: 'no-store',
  });
  if (!response.ok) throw new Error(`The server did not give the file: ${response.status}.`);
  return new File([await response.blob()], name, { type });
}

/** Where other machines reach this server; none when it answers this machine only. @throws Error when the server does not tell. */
export const fetchAddresses = async (): Promise<readonly string[]> => (await ask()).addresses;

async function ask(): Promise<{ key: string; addresses: string[] }> {
  const response = await fetch('/api/host-key', { cache: 'no-store', signal: AbortSignal.timeout(KEY_MS) });
  if (!response.ok) throw new Error(`The server gave no key: ${response.status}`);
  return (await response.json()) as { key: string; addresses: string[] };
}
