/** A figure with its name under it; tabular, so that nothing jumps as it changes. */
export function Figure({ label, value, tone }: { label: string; value: string; tone?: 'caution' | 'air' | 'next' | undefined }) {
  const colour = { caution: 'text-caution', air: 'text-air', next: 'text-next' };
  return (
    <div className="min-w-20">
      <div className={`figures text-xl leading-tight ${tone ? colour[tone] : ''}`}>{value}</div>
      <div className="text-xs text-muted">{label}</div>
    </div>
  );
}

/** Bits a second as people read them. */
export const bitrateText = (bits: number): string => (bits >= 1e6 ? `${(bits / 1e6).toFixed(1)} Mb/s` : `${Math.round(bits / 1e3)} kb/s`);
