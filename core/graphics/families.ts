/** The type families that ship: all under the SIL Open Font License. */

export interface Family {
  /** As a text style names it. */
  family: string;
  /** Folder of its files. */
  folder: string;
  /** For people. */
  about: string;
}

export const FAMILIES: readonly Family[] = [
  { family: 'Atkinson Hyperlegible Next', folder: 'atkinson-hyperlegible-next', about: 'plain, most legible' },
  { family: 'Barlow Condensed', folder: 'barlow-condensed', about: 'narrow' },
  { family: 'Oswald', folder: 'oswald', about: 'narrow and heavy' },
  { family: 'Bitter', folder: 'bitter', about: 'with slabs' },
  { family: 'Playfair Display', folder: 'playfair-display', about: 'with serifs, for large sizes' },
  { family: 'Fredoka', folder: 'fredoka', about: 'round' },
  { family: 'Caveat', folder: 'caveat', about: 'by hand' },
  { family: 'IBM Plex Mono', folder: 'ibm-plex-mono', about: 'figures of one width' },
  { family: 'Noto Sans Arabic', folder: 'noto-sans-arabic', about: 'Arabic' },
  { family: 'Noto Sans Hebrew', folder: 'noto-sans-hebrew', about: 'Hebrew' },
  { family: 'Noto Sans Devanagari', folder: 'noto-sans-devanagari', about: 'Devanagari' },
];

const SCRIPTS: readonly [RegExp, string][] = [
  [/[\u0600-\u077f\ufb50-\ufdff\ufe70-\ufefc]/, 'Noto Sans Arabic'],
  [/[\u0590-\u05ff\ufb1d-\ufb4f]/, 'Noto Sans Hebrew'],
  [/[\u0900-\u097f]/, 'Noto Sans Devanagari'],
];

/** Families that a text needs beside its own, for scripts that it has not. */
export const scriptFamilies = (text: string): string[] => SCRIPTS.filter(([letters]) => letters.test(text)).map(([, family]) => family);
