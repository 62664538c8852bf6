/** Gives a file to the person at the machine, through the browser's download. */
export function saveFile(file: Blob, name: string): void {
  const url = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser reads the file after the press; a minute is ample even for a slow disk to begin.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A name as part of that of a file: letters, digits, spaces and dashes; `otherwise` when nothing is left of it. */
export const fileBase = (name: string, otherwise: string): string => name.replace(/[^\p{L}\p{N} _-]/gu, '').trim() || otherwise;
