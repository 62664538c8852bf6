/** Secrets that let people in: made here, told to the server by their hash alone. */

/** Bytes of a secret: nobody guesses 192 bits. */
const SECRET_BYTES = 24;

export function newSecret(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(SECRET_BYTES));
  return btoa(String.fromCharCode(...bytes))
    .replace(/\+/g, '-')
    .replace(/\//g, '_');
}

/** SHA-256, hexadecimal. */
export async function hashOf(secret: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(secret));
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}
