/** How loud something is heard on this machine, 0 to 1; no mix is changed. */
export function LevelSlider({
  label,
  first,
  className,
  onChange,
}: {
  label: string;
  /** Where it stands at first. */
  first: number;
  className: string;
  onChange: (level: number) => void;
}) {
  return (
    <input
      type="range"
      aria-label={label}
      className={className}
      min={0}
      max={1}
      step={0.01}
      defaultValue={first}
      onChange={(e) => onChange(Number(e.target.value))}
    />
  );
}
