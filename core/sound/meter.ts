/** Peak meter ballistics: instant rise, 20 dB in 1.7 s fall (IEC 60268-10 type I), peak held for 1.5 s. */
const FALL_DB_PER_SECOND = 20 / 1.7;
const HOLD_SECONDS = 1.5;

export interface MeterReading {
  /** dBFS shown by the bar. */
  level: number;
  /** dBFS of the held peak. */
  peak: number;
  /** Seconds of the caller's clock at which the peak was reached. */
  peakAt: number;
  /** Seconds at which this reading was taken. */
  at: number;
}

export const METER_FLOOR_DB = -60;

export const restingMeter = (): MeterReading => ({ level: METER_FLOOR_DB, peak: METER_FLOOR_DB, peakAt: 0, at: 0 });

/** The reading after a block whose highest level was `db` (dBFS) ended at `now` (seconds). */
export function advanceMeter(reading: MeterReading, db: number, now: number): MeterReading {
  const value = Math.max(METER_FLOOR_DB, Number.isFinite(db) ? db : METER_FLOOR_DB);
  const fallen = reading.level - FALL_DB_PER_SECOND * Math.max(0, now - reading.at);
  const level = Math.max(value, METER_FLOOR_DB, fallen);
  const expired = now - reading.peakAt > HOLD_SECONDS;
  const rises = value >= reading.peak || expired;
  return { level, peak: rises ? Math.max(value, expired ? level : value) : reading.peak, peakAt: rises ? now : reading.peakAt, at: now };
}
