/** Draws the timeline onto a canvas: ruler, clips, rows with small pictures, gaps, marks, playheads, the live edge. */
import { CLIP_ROWS, type PlacedClip } from '#core/replay/clip-rows';
import { gapsOf, type Run } from '#core/replay/timeline';
import { type Rate } from '#core/time/rate';
import { formatTimecode } from '#core/time/timecode';

/** Heights in CSS pixels. */
export const CLIP_ROW = 20;
/** Where the rows of clips begin. */
export const CLIPS_TOP = 22;
export const LANES_TOP = CLIPS_TOP + CLIP_ROW * CLIP_ROWS + 6;
/** Length of a tile of the strip of small pictures, CSS pixels. */
export const TILE = 72;

export interface TimelineScene {
  width: number;
  height: number;
  from: number;
  /** Show frames a pixel. */
  scale: number;
  rate: Rate;
  now: number;
  recording: boolean;
  rows: { id: string; name: string; colour: string; runs: Run[] }[];
  clips: readonly PlacedClip[];
  chosen: ReadonlySet<string>;
  markIn: number | null;
  markOut: number | null;
  heads: { deck: number; position: number; live: boolean; chosen: boolean }[];
  /** Small picture of a row at a frame, when it has come. */
  picture: (laneId: string, frame: number, step: number) => CanvasImageSource | null;
}

const COLOURS = {
  deep: '#0d1517',
  panel: '#142023',
  raised: '#1b2a2e',
  line: '#28393d',
  text: '#e8efe9',
  muted: '#8fa5a3',
  straw: '#e2c48d',
  air: '#ff5a4f',
  next: '#4fd1a5',
  caution: '#f2b84b',
};

/** Frames between two lines of the ruler, so that their words have room. */
function rulerStep(scale: number, rate: Rate): number {
  const fps = Math.round(rate.num / rate.den);
  const wanted = scale * 110;
  const steps = [
    1,
    2,
    5,
    10,
    fps,
    2 * fps,
    5 * fps,
    10 * fps,
    30 * fps,
    60 * fps,
    120 * fps,
    300 * fps,
    600 * fps,
    1800 * fps,
    3600 * fps,
    7200 * fps,
    21600 * fps,
    86400 * fps,
  ];
  return steps.find((s) => s >= wanted) ?? 86400 * fps;
}

/** Frames between two small pictures: a power of two, so that zooming finds known ones again. */
export const tileStep = (scale: number): number => 2 ** Math.max(0, Math.round(Math.log2(Math.max(1, TILE * scale))));

function hatch(c: CanvasRenderingContext2D, x: number, y: number, width: number, height: number): void {
  c.save();
  c.beginPath();
  c.rect(x, y, width, height);
  c.clip();
  c.fillStyle = COLOURS.deep;
  c.fillRect(x, y, width, height);
  c.strokeStyle = COLOURS.line;
  c.lineWidth = 2;
  c.beginPath();
  for (let at = x - height - ((x - height) % 10); at < x + width; at += 10) {
    c.moveTo(at, y + height);
    c.lineTo(at + height, y);
  }
  c.stroke();
  c.restore();
}

export function drawTimeline(c: CanvasRenderingContext2D, s: TimelineScene): void {
  const { width, height, from, scale } = s;
  const x = (frame: number) => (frame - from) / scale;
  const until = from + width * scale;
  c.fillStyle = COLOURS.panel;
  c.fillRect(0, 0, width, height);
  drawRuler(c, s, x, until);
  drawLanes(c, s, x, until);
  drawClips(c, s, x, until);
  drawMarks(c, s, x);
  const edge = Math.round(x(s.now));
  if (edge < width) {
    c.fillStyle = 'rgba(13,21,23,0.82)';
    c.fillRect(edge, CLIPS_TOP, width - edge, height - CLIPS_TOP);
    const words = s.recording ? 'NOW' : 'NOT RECORDING';
    c.font = '600 13px "IBM Plex Mono", monospace';
    c.fillStyle = COLOURS.panel;
    c.fillRect(edge, 0, c.measureText(words).width + 14, CLIPS_TOP);
    c.fillStyle = s.recording ? COLOURS.text : COLOURS.muted;
    c.fillRect(edge - 1, 0, 3, height);
    c.fillText(words, edge + 7, 15);
  }
  drawHeads(c, s, x);
}

function drawRuler(c: CanvasRenderingContext2D, s: TimelineScene, x: (f: number) => number, until: number): void {
  const step = rulerStep(s.scale, s.rate);
  c.font = '13px "IBM Plex Mono", monospace';
  c.textBaseline = 'alphabetic';
  for (let at = Math.floor(s.from / step) * step; at < until; at += step) {
    const px = Math.round(x(at)) + 0.5;
    c.fillStyle = COLOURS.line;
    c.fillRect(px, 0, 1, s.height);
    c.fillStyle = COLOURS.muted;
    if (at >= 0) c.fillText(formatTimecode(at, s.rate), px + 4, 15);
  }
}

function drawLanes(c: CanvasRenderingContext2D, s: TimelineScene, x: (f: number) => number, until: number): void {
  const count = Math.max(1, s.rows.length);
  const rowHeight = Math.max(20, (s.height - LANES_TOP) / count);
  const toFrame = (micros: number) => (micros * s.rate.num) / (s.rate.den * 1e6);
  const window = { from: s.from, to: Math.min(until, s.now) };
  s.rows.forEach((row, i) => {
    const top = LANES_TOP + i * rowHeight;
    const runs = row.runs.map((r) => ({ from: toFrame(r.from), to: toFrame(r.to) }));
    for (const run of runs) {
      if (run.to < s.from || run.from > until) continue;
      const [left, right] = [Math.max(0, x(run.from)), Math.min(s.width, x(run.to))];
      c.fillStyle = COLOURS.raised;
      c.fillRect(left, top + 1, right - left, rowHeight - 2);
      drawTiles(c, s, row.id, Math.ceil(run.from), left, right, top + 1, rowHeight - 2);
    }
    // The last half second is still on its way to the disk: no gap.
    for (const gap of gapsOf(runs, window)) {
      if (gap.to >= s.now - 1 && gap.to - gap.from < toFrame(900_000)) continue;
      hatch(c, x(gap.from), top + 1, x(gap.to) - x(gap.from), rowHeight - 2);
    }
    c.fillStyle = row.colour;
    c.fillRect(0, top + 1, 5, rowHeight - 2);
    c.font = '600 13px "Atkinson Hyperlegible Next", sans-serif';
    const text = `${i + 1}  ${row.name}`;
    const wide = c.measureText(text).width + 14;
    c.fillStyle = 'rgba(13,21,23,0.85)';
    c.fillRect(5, top + 1, wide, 19);
    c.fillStyle = COLOURS.text;
    c.fillText(text, 11, top + 15);
  });
}

function drawTiles(
  c: CanvasRenderingContext2D,
  s: TimelineScene,
  laneId: string,
  first: number,
  left: number,
  right: number,
  top: number,
  height: number,
): void {
  const step = tileStep(s.scale);
  const wide = step / s.scale;
  const tile = Math.min(wide, (height * 16) / 9);
  c.save();
  c.beginPath();
  c.rect(left, top, right - left, height);
  c.clip();
  for (let at = Math.floor((s.from + left * s.scale) / step) * step; ; at += step) {
    const px = (at - s.from) / s.scale;
    if (px >= right) break;
    // The first tile of a run begins with the run.
    const frame = Math.max(at, first);
    const image = s.picture(laneId, frame, step);
    if (image) c.drawImage(image, Math.max(px, (frame - s.from) / s.scale), top, tile, height);
  }
  c.restore();
}

function drawClips(c: CanvasRenderingContext2D, s: TimelineScene, x: (f: number) => number, until: number): void {
  c.font = '13px "Atkinson Hyperlegible Next", sans-serif';
  for (const { clip, row } of s.clips) {
    if (clip.in > until) break;
    if (clip.out < s.from) continue;
    const left = x(clip.in);
    const wide = Math.max(2, x(clip.out) - left);
    const top = CLIPS_TOP + row * CLIP_ROW + 1;
    const chosen = s.chosen.has(clip.id);
    c.fillStyle = chosen ? clip.colour : `${clip.colour}59`;
    c.fillRect(left, top, wide, CLIP_ROW - 2);
    if (chosen) {
      c.strokeStyle = COLOURS.text;
      c.lineWidth = 2;
      c.strokeRect(left + 1, top + 1, Math.max(1, wide - 2), CLIP_ROW - 4);
    }
    if (wide < 26) continue;
    c.save();
    c.beginPath();
    c.rect(left, top, wide, CLIP_ROW);
    c.clip();
    c.fillStyle = chosen ? COLOURS.deep : COLOURS.text;
    c.fillText(`${clip.number} ${clip.name}`, Math.max(left, 0) + 4, top + 13);
    c.restore();
  }
}

function drawMarks(c: CanvasRenderingContext2D, s: TimelineScene, x: (f: number) => number): void {
  const { markIn, markOut } = s;
  if (markIn !== null && markOut !== null) {
    c.fillStyle = 'rgba(226,196,141,0.18)';
    c.fillRect(x(markIn), CLIPS_TOP, x(markOut) - x(markIn), s.height - CLIPS_TOP);
  }
  c.font = '600 13px "IBM Plex Mono", monospace';
  for (const [frame, text] of [
    [markIn, 'IN'],
    [markOut, 'OUT'],
  ] as const) {
    if (frame === null) continue;
    const px = x(frame);
    c.fillStyle = COLOURS.straw;
    c.fillRect(px - 1, 0, 2, s.height);
    c.fillRect(text === 'IN' ? px : px - 32, CLIPS_TOP - 18, 32, 16);
    c.fillStyle = COLOURS.deep;
    c.fillText(text, text === 'IN' ? px + 4 : px - 28, CLIPS_TOP - 5);
  }
}

function drawHeads(c: CanvasRenderingContext2D, s: TimelineScene, x: (f: number) => number): void {
  c.font = '600 13px "IBM Plex Mono", monospace';
  for (const head of s.heads) {
    const px = Math.round(x(head.position));
    if (px < -20 || px > s.width + 20) continue;
    c.fillStyle = COLOURS.text;
    c.fillRect(px - (head.chosen ? 1 : 0), CLIPS_TOP, head.chosen ? 3 : 1, s.height - CLIPS_TOP);
    const top = head.deck === 1 ? CLIPS_TOP : s.height - 18;
    c.fillStyle = head.chosen ? COLOURS.text : COLOURS.muted;
    c.fillRect(px - 11, top, 22, 18);
    c.fillStyle = COLOURS.deep;
    c.fillText(`D${head.deck}`, px - 8, top + 13);
  }
}
