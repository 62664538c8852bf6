/** Who speaks, by level, with a hold so that it does not flicker: a cough or a laugh does not change the picture. Pure. */

/** Quieter than this nobody speaks, dBFS. */
export const SPEAKS_DB = -38;
/** Somebody else has to be louder by so much, dB, */
export const LOUDER_DB = 4;
/** for so long, milliseconds, */
export const FOR_MS = 450;
/** and whoever is shown is shown for so long at least. */
export const HOLD_MS = 1800;

export class WhoSpeaks {
  private shown: string | null = null;
  private shownAt = -Infinity;
  private rival: { id: string; since: number } | null = null;

  /** Levels of all who count, dBFS, at a moment in milliseconds. Who is to be shown now; null for nobody yet. */
  step(levels: ReadonlyMap<string, number>, now: number): string | null {
    if (this.shown !== null && !levels.has(this.shown)) this.shown = null;
    const own = this.shown === null ? -Infinity : (levels.get(this.shown) ?? -Infinity);
    let [loudest, most] = [null as string | null, SPEAKS_DB];
    for (const [id, level] of levels) if (level > most) [loudest, most] = [id, level];
    const challenges =
      loudest !== null && loudest !== this.shown && (this.shown === null || most > Math.max(own, SPEAKS_DB) + LOUDER_DB || own < SPEAKS_DB);
    if (!challenges || loudest === null) this.rival = null;
    else if (this.rival?.id !== loudest) this.rival = { id: loudest, since: now };
    if (this.rival && now - this.rival.since >= FOR_MS && now - this.shownAt >= HOLD_MS) {
      this.shown = this.rival.id;
      this.shownAt = now;
      this.rival = null;
    }
    return this.shown;
  }
}
