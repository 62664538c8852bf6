/** The secret by which a page proves to its server that it may run a show. */

const KEY_MS = 5000;

/** The secret that only a page of this server gets. @throws Error when the server does not give it. */
export async function fetchHostKey(): Promise<string> {
  const response = await fetch('/api/host-key', { cache: 'no-store', signal: AbortSignal.timeout(KEY_MS) });
  if (!response.ok) throw new Error(`The server gave no key: ${response.status}`);
  return ((await response.json()) as { key: string }).key;
}
