/** Which picture a recording or stream takes: the programme, or what lies below its lanes. */
import { outputsOf } from '#core/screens/outputs';
import { useShow } from '../client/show-client';

export function OutputSelect({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string;
  value: string;
  disabled: boolean;
  onChange: (outputId: string) => void;
}) {
  const outputs = useShow(({ desk: { show } }) => outputsOf(show));
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-xs text-muted">Picture</span>
      <select aria-label={label} className="w-36" disabled={disabled} value={value} onChange={(e) => onChange(e.target.value)}>
        {outputs.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
