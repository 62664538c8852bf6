/** The demo show: Skerry Point Kite Trials, an invented contest. */
import { createAir } from '#core/show/air';
import { createShow, createSource } from '#core/show/create';
import { type Show } from '#core/show/show';
import { type SimulatedCamera, type SourceSettings } from '#core/show/source';

export const DEMO_NAME = 'Skerry Point Kite Trials';

const CAMERAS: [SimulatedCamera, string][] = [
  ['shore', 'Shore wide'],
  ['line', 'Flight line'],
  ['mast', 'Mast overhead'],
  ['desk', 'Commentary desk'],
];

const CARDS: [string, string][] = [
  ['Maren Tolv', 'Pilot, heat 4 · Lantern Bay'],
  ['Osk Ferrand', 'Pilot, heat 4 · North Skerry'],
  ['Ilse Quay & Bram Dory', 'Commentary'],
];

/** The demo show under `id`; `bugAsset` holds the sponsor's bug. Its air begins on the shore camera. */
export function createDemoShow(id: string, bugAsset: string): { show: Show; air: ReturnType<typeof createAir> } {
  const show = createShow(id, DEMO_NAME, { width: 640, height: 360 }, { num: 25, den: 1 });
  const add = (sourceId: string, name: string, settings: SourceSettings, groupId: string | null) => {
    show.sources.push({ ...createSource(show, sourceId, name, settings), groupId });
  };
  show.groups = [
    { id: 'cameras', name: 'Pier cameras', folded: false },
    { id: 'line-up', name: 'Line-up', folded: false },
  ];
  for (const [camera, name] of CAMERAS) add(camera, name, { kind: 'simulated', camera }, 'cameras');
  add('bars', 'Bars and tone', { kind: 'test', pattern: 'bars' }, 'line-up');
  add('sync', 'Flash and beep', { kind: 'test', pattern: 'sync' }, 'line-up');
  add('harbour', 'Harbour blue', { kind: 'colour', colour: '#16405a' }, 'line-up');
  add('bug', 'Halyard & Sons bug', { kind: 'still', assetId: bugAsset, fileName: 'halyard-bug.png' }, 'line-up');
  const bug = show.sources.find((s) => s.id === 'bug');
  if (bug) Object.assign(bug, { feedsOnly: true, number: null });
  show.cards = CARDS.map(([name, role], i) => ({ id: `card-${i + 1}`, name, role }));
  const [names, bugs] = show.lanes;
  if (names) Object.assign(names, { name: 'Names', content: { kind: 'card', id: 'card-1' }, holdSeconds: 8 });
  if (bugs) Object.assign(bugs, { name: 'Bug', content: { kind: 'source', id: 'bug' } });
  const air = createAir(show);
  air.onAirId = 'shore';
  air.nextId = 'line';
  return { show, air };
}

/** The bug of the invented chandler, drawn: a PNG of the whole raster, transparent but for the corner. */
export async function drawBug(): Promise<Blob> {
  const canvas = new OffscreenCanvas(640, 360);
  const c = canvas.getContext('2d');
  if (!c) throw new Error('This browser gives no 2D canvas.');
  c.fillStyle = 'rgba(13,21,23,0.72)';
  c.fillRect(470, 22, 138, 34);
  c.fillStyle = '#e2c48d';
  c.beginPath();
  c.moveTo(482, 50);
  c.lineTo(494, 28);
  c.lineTo(494, 50);
  c.fill();
  c.fillStyle = '#e8efe9';
  c.beginPath();
  c.moveTo(498, 50);
  c.lineTo(498, 32);
  c.lineTo(508, 50);
  c.fill();
  c.font = '600 13px sans-serif';
  c.fillText('Halyard & Sons', 514, 44, 88);
  return canvas.convertToBlob({ type: 'image/png' });
}
