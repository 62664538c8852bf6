/** Bytes as a data address. */
export async function toDataAddress(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return `data:${blob.type || 'application/octet-stream'};base64,${btoa(text)}`;
}
