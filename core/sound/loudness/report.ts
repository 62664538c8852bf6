/** A report of a loudness measurement, as text for people and as CSV for tables. */
import { type LoudnessReading } from './loudness-meter';

export interface ReportPoint {
  /** Seconds since the measurement began. */
  at: number;
  momentary: number;
  shortTerm: number;
  integrated: number;
}

export interface LoudnessReport {
  show: string;
  bus: string;
  /** When it was made. */
  made: Date;
  targetLufs: number;
  reading: LoudnessReading;
  points: readonly ReportPoint[];
}

/** How far the integrated loudness may be off the target, LU (EBU R 128: ±0.5, ±1.0 for live programmes). */
export const TOLERANCE_LU = 1;
/** Highest true peak allowed, dBTP (EBU R 128). */
export const PEAK_LIMIT = -1;

const figure = (value: number) => (Number.isFinite(value) ? value.toFixed(1) : '');

/** What the measurement says of the target, in words. */
export function verdict({ integrated, truePeak }: LoudnessReading, targetLufs: number): { met: boolean; text: string } {
  if (!Number.isFinite(integrated)) return { met: false, text: 'nothing measured yet' };
  const off = integrated - targetLufs;
  const loudness =
    Math.abs(off) <= TOLERANCE_LU ? 'loudness meets the target' : `${Math.abs(off).toFixed(1)} LU too ${off > 0 ? 'loud' : 'quiet'}`;
  const peak = truePeak > PEAK_LIMIT + 0.05 ? `true peak over ${PEAK_LIMIT} dBTP` : '';
  return { met: Math.abs(off) <= TOLERANCE_LU && peak === '', text: [loudness, peak].filter(Boolean).join(', ') };
}

/** CSV after RFC 4180: a head of names and values, an empty line, then a row a second. */
export function loudnessCsv({ show, bus, made, targetLufs, reading, points }: LoudnessReport): string {
  const quoted = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  const head: [string, string][] = [
    ['Show', show],
    ['Bus', bus],
    ['Made', made.toISOString()],
    ['Method', 'ITU-R BS.1770-5, EBU R 128'],
    ['Duration, s', reading.seconds.toFixed(1)],
    ['Target, LUFS', figure(targetLufs)],
    ['Integrated, LUFS', figure(reading.integrated)],
    ['Range, LU', figure(reading.range)],
    ['True peak, dBTP', figure(reading.truePeak)],
    ['Momentary maximum, LUFS', figure(reading.momentaryMax)],
    ['Short-term maximum, LUFS', figure(reading.shortTermMax)],
    ['Result', verdict(reading, targetLufs).text],
  ];
  const rows = points.map((p) => [String(p.at), figure(p.momentary), figure(p.shortTerm), figure(p.integrated)].join(','));
  return [
    ...head.map((line) => line.map(quoted).join(',')),
    '',
    'Second,"Momentary, LUFS","Short-term, LUFS","Integrated, LUFS"',
    ...rows,
    '',
  ].join('\r\n');
}
