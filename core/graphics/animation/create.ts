/** A graphic of an animation that was made elsewhere. */
import { type Raster } from '../../show/raster';
import { type Rate } from '../../time/rate';
import { createElement, createField, createGraphic } from '../create';
import { type Field, type Graphic, MOST_FIELDS, type Value } from '../document';
import { type AnimationContent } from './document';
import { type Lottie } from './lottie';
import { type FoundPart, layerUnits, partsOf } from './parts';
import { holdsOf, type HoldPoints, stillsOf } from './stills';

/** Fields that an animation has at first: its texts and images, so many at most; colours and switches are added by hand. */
const MOST_FIRST_FIELDS = 24;

/** What stands in a part, as the default of its field. */
function valueOfPart({ kind, was }: FoundPart): Value {
  if (kind === 'image') return { kind: 'image', assetId: null };
  if (kind === 'window') return { kind: 'picture', pictureId: null };
  if (kind === 'colour') return { kind: 'colour', colour: was };
  if (kind === 'flag') return { kind: 'flag', on: true };
  // Words that are a number, and are written as it would be, are counted by key.
  const number = Number(was);
  return was.trim() !== '' && String(number) === was && Math.abs(number) <= 1e12 ? { kind: 'number', number } : { kind: 'text', text: was };
}

/** Frames of an animation of `fps` in a frame of a show. */
export const paceOf = (fps: number, { num, den }: Rate): number => Math.min(1000, Math.max(0.001, (fps * den) / num));

/** The content of an animation for a show of `rate`, with why it waits where it does. */
export function animationContent(
  doc: Lottie,
  { assetId, fileName, rate, problems }: { assetId: string | null; fileName: string; rate: Rate; problems: number },
): { content: AnimationContent; parts: FoundPart[]; why: HoldPoints['why'] } {
  const parts = partsOf(doc);
  const stills = stillsOf(doc);
  const holds = holdsOf(doc, stills);
  const content: AnimationContent = {
    kind: 'animation',
    assetId,
    fileName: fileName.slice(0, 256),
    first: doc.ip,
    last: doc.op,
    pace: paceOf(doc.fr, rate),
    rate: doc.fr,
    width: doc.w,
    height: doc.h,
    holds: holds.frames.map((frame) => ({ frame, seconds: null })),
    stills,
    parts: parts.map(({ id, name, kind, path, layers, track }) => ({ id, name, kind, path, layers: layers.slice(0, 400), track })),
    units: layerUnits(doc).map((layers) => ({ layers })),
    given: [],
    problems: Math.min(400, problems),
  };
  return { content, parts, why: holds.why };
}

/** Parts that are fields at first: texts and images. */
export const firstFields = (parts: readonly FoundPart[]): string[] =>
  parts
    .filter((p) => p.kind === 'text' || p.kind === 'image')
    .slice(0, MOST_FIRST_FIELDS)
    .map((p) => p.id);

/** A graphic that shows it over its whole raster, as large as it goes, with a field for each of the chosen parts. */
export function animationGraphic(
  id: string,
  name: string,
  { content, parts }: { content: AnimationContent; parts: readonly FoundPart[] },
  raster: Raster,
  chosen: readonly string[] = firstFields(parts),
): Graphic {
  const scale = Math.min(raster.width / content.width, raster.height / content.height);
  const [width, height] = [content.width * scale, content.height * scale];
  const place = { x: (raster.width - width) / 2, y: (raster.height - height) / 2, width, height };
  const fields = parts
    .filter((p) => chosen.includes(p.id))
    .slice(0, MOST_FIELDS)
    .map((part): Field =>
      createField(part.id, part.name.slice(0, 60) || 'Part', valueOfPart(part), {
        targets: [{ elementId: 'animation', property: 'part', part: part.id }],
      }),
    );
  return {
    ...createGraphic(id, name, raster),
    elements: [createElement('animation', 'animation', place, { name: 'Animation', content })],
    fields,
    stingerFrames: Math.min(3000, Math.max(1, Math.ceil((content.last - content.first) / content.pace))),
    cutFrame: Math.min(3000, Math.max(0, Math.round(((content.holds[0]?.frame ?? content.first) - content.first) / content.pace))),
  };
}
