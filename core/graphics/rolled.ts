/** Numbers that roll. */

/** The words of a number that has come to `share` on its way from `from`; null for other words. Decimals are those of the end. */
export function rolled(from: string, to: string, share: number): string | null {
  const number = /[-−]?\d+(?:[.,]\d+)?/;
  const end = number.exec(to)?.[0];
  if (end === undefined || share >= 1) return null;
  const value = (text: string | undefined) => Number((text ?? '0').replace('−', '-').replace(',', '.')) || 0;
  const decimals = /[.,](\d+)/.exec(end)?.[1]?.length ?? 0;
  const now = value(number.exec(from)?.[0]) + (value(end) - value(number.exec(from)?.[0])) * share;
  const words = Math.abs(now).toFixed(decimals);
  return to.replace(number, `${now < 0 && Number(words) !== 0 ? '−' : ''}${end.includes(',') ? words.replace('.', ',') : words}`);
}
