/** The bitrate of a recording or a stream. */
import { NumberField } from '../parts/number-field';

interface BitrateFieldProps {
  megabits: number;
  /** Most that is taken, megabits a second. */
  most: number;
  /** How much suits which picture. */
  hint: string;
  onCommit: (megabits: number) => void;
}

export const BitrateField = ({ megabits, most, hint, onCommit }: BitrateFieldProps) => (
  <span title={hint}>
    <NumberField
      className="w-28"
      showLabel
      label="Bitrate"
      unit="Mb/s"
      min={0.2}
      max={most}
      digits={1}
      value={megabits}
      onCommit={onCommit}
    />
  </span>
);
