/** How a guest's line does, out of what the browser counts of a connection (W3C webrtc-stats). */
import { type ShortOf } from '#core/guests/line';
import { type GuestFigures } from '../client/show-client';
import { type Found } from './guest-checks';

/** Counts of before, to see what has come since. */
export interface RawFigures {
  at: number;
  bytes: number;
  frames: number;
  packets: number;
  lost: number;
}

type Row = Record<string, unknown> & { type: string; kind?: string };
const numberOf = (row: Row | undefined, name: string): number => (typeof row?.[name] === 'number' ? row[name] : 0);

/** What keeps a picture that is sent below what is wanted, as the browser tells of it. */
export function shortOf(report: RTCStatsReport): ShortOf {
  const why = new Set<unknown>();
  report.forEach((row: Row) => void (row.type === 'outbound-rtp' && row.kind === 'video' && why.add(row.qualityLimitationReason)));
  return why.has('bandwidth') ? 'line' : why.has('cpu') ? 'machine' : '';
}

/** `before` is what the last look has counted; without it, rates are not known yet. */
export function figuresOf(
  report: RTCStatsReport,
  before: RawFigures | null,
): { raw: RawFigures; figures: Omit<GuestFigures, keyof Found | 'shortOf'> } {
  const rows: Row[] = [];
  report.forEach((row: Row) => void rows.push(row));
  const video = rows.find((r) => r.type === 'inbound-rtp' && r.kind === 'video');
  const way = rows.find((r) => r.type === 'candidate-pair' && r.nominated === true && typeof r.currentRoundTripTime === 'number');
  const inbound = rows.filter((r) => r.type === 'inbound-rtp');
  const sum = (name: string) => inbound.reduce((all, r) => all + numberOf(r, name), 0);
  const raw: RawFigures = {
    at: performance.now(),
    bytes: sum('bytesReceived'),
    frames: numberOf(video, 'framesDecoded'),
    packets: sum('packetsReceived'),
    lost: sum('packetsLost'),
  };
  const seconds = before ? (raw.at - before.at) / 1000 : 0;
  const rate = (now: number, then: number | undefined) => (seconds > 0 ? Math.max(0, now - (then ?? 0)) / seconds : 0);
  const [packets, lost] = [raw.packets - (before?.packets ?? 0), Math.max(0, raw.lost - (before?.lost ?? 0))];
  return {
    raw,
    figures: {
      width: numberOf(video, 'frameWidth'),
      height: numberOf(video, 'frameHeight'),
      frameRate: Math.round(rate(raw.frames, before?.frames)),
      kilobits: Math.round((rate(raw.bytes, before?.bytes) * 8) / 1000),
      lostShare: packets + lost > 0 ? lost / (packets + lost) : 0,
      delayMs: way ? Math.round(numberOf(way, 'currentRoundTripTime') * 1000) : null,
    },
  };
}
