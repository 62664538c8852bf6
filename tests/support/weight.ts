/** What parts of the built app need, and what that weighs as it is sent. */
import { readFileSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

interface Chunk {
  file: string;
  css?: string[];
  imports?: string[];
}

/** What the first paint of the Desk needs: the page, what opens a show, and the room. */
export const FIRST_PAINT = ['index.html', 'wiring/show.tsx', 'desk/desk.tsx'];

const built = (path: string) => fileURLToPath(new URL(`../../dist/${path}`, import.meta.url));

/** Files without which `parts` (pages and modules, as they are called in interface/) cannot be there: what they import, and their styles. */
export function filesOf(parts: readonly string[]): string[] {
  const manifest = JSON.parse(readFileSync(built('manifest.json'), 'utf8')) as Record<string, Chunk>;
  const files = new Set<string>();
  const seen = new Set<string>();
  const take = (name: string): void => {
    const chunk = manifest[name];
    if (!chunk) throw new Error(`The build has no part ${name}.`);
    if (seen.has(name)) return;
    seen.add(name);
    files.add(chunk.file);
    for (const style of chunk.css ?? []) files.add(style);
    for (const other of chunk.imports ?? []) take(other);
  };
  parts.forEach(take);
  return [...files];
}

/** Bytes of files as they are sent: compressed with Brotli where that was worth it. */
export function weightOf(files: readonly string[]): number {
  const size = (path: string) => statSync(built(path), { throwIfNoEntry: false })?.size;
  return files.reduce((sum, file) => sum + (size(`${file}.br`) ?? size(file) ?? 0), 0);
}
