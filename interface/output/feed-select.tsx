import { type Feed } from '#core/output/document';

/** Which picture an output takes: with the lanes over it, or without. */
export function FeedSelect({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string;
  value: Feed;
  disabled: boolean;
  onChange: (feed: Feed) => void;
}) {
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-xs text-muted">Picture</span>
      <select aria-label={label} className="w-32" disabled={disabled} value={value} onChange={(e) => onChange(e.target.value as Feed)}>
        <option value="programme">programme</option>
        <option value="clean">clean, below the lanes</option>
      </select>
    </label>
  );
}
