/** Loudness of each bus second by second, for charts and reports. */
import { type LoudnessRun } from '#core/sound/air';
import { type LoudnessReading } from '#core/sound/loudness/loudness-meter';

export interface LoudnessPoint {
  /** Seconds since the measurement began, or since the show was opened. */
  at: number;
  momentary: number;
  shortTerm: number;
  integrated: number;
}

/** Three hours. */
const MOST_POINTS = 10_800;

export class LoudnessHistory {
  private readonly points = new Map<string, LoudnessPoint[]>();
  private readonly starts = new Map<string, number>();
  private runs: Record<string, LoudnessRun> = {};
  private last = 0;

  /** Measurements as they stand: one that begins anew clears the history of its bus. */
  follow(runs: Record<string, LoudnessRun>): void {
    for (const id of new Set([...Object.keys(runs), ...Object.keys(this.runs)])) {
      if (runs[id]?.start === this.runs[id]?.start) continue;
      this.points.delete(id);
      this.starts.delete(id);
    }
    this.runs = runs;
  }

  /** Adds a point a second at most. @param now seconds of any clock. */
  add(now: number, readings: Record<string, LoudnessReading>): void {
    if (now - this.last < 0.98) return;
    this.last = now;
    for (const [id, { momentary, shortTerm, integrated }] of Object.entries(readings)) {
      if (this.runs[id]?.stop !== null && this.runs[id] !== undefined) continue;
      if (!this.starts.has(id)) this.starts.set(id, now);
      const list = this.points.get(id) ?? [];
      list.push({ at: Math.round(now - (this.starts.get(id) as number)), momentary, shortTerm, integrated });
      if (list.length > MOST_POINTS) list.splice(0, 600);
      this.points.set(id, list);
    }
  }

  of(busId: string): readonly LoudnessPoint[] {
    return this.points.get(busId) ?? [];
  }
}
