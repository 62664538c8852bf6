/** What lengths are read in besides pixels. */
import { LENGTH_UNITS, type LengthUnit } from '#core/screens/lengths';
import { Choice } from '../parts/fields';
import { setRoom, useScreensRoom } from './room-state';

const UNIT_WORDS: Record<LengthUnit, string> = { m: 'metres', ft: 'feet and inches', px: 'pixels' };

export function UnitChoice() {
  const unit = useScreensRoom((s) => s.unit);
  return (
    <Choice
      label="Lengths are read in"
      value={unit}
      all={LENGTH_UNITS.map((u) => [u, UNIT_WORDS[u]])}
      onChange={(u) => setRoom({ unit: u })}
    />
  );
}
