/** What the player cannot do of an animation, by layer: said when it comes in, so that nothing is drawn wrong in silence. */
import { eachObject, LAYER, listIn, type Lottie, type Raw, textIn } from './lottie';

/** Layer kinds that are drawn; 3 is an empty layer, which others hang on. */
const DRAWN: ReadonlySet<unknown> = new Set(Object.values(LAYER));
const KIND_WORDS: Record<number, string> = {
  6: 'a sound',
  7: 'a video placeholder',
  8: 'an image sequence',
  9: 'a video',
  13: 'a camera',
  15: 'a document',
};
/** Kinds of shapes that are left out. */
const SHAPE_WORDS: Record<string, string> = { mm: 'merged paths', pb: 'pucker and bloat', zz: 'zig zag', tw: 'twist' };
/** Problems that are listed; more are counted. */
const MOST = 100;

const nameOf = (layer: Raw): string => textIn(layer, 'nm') || `layer ${JSON.stringify(layer.ind ?? '?')}`;

function ofLayer(layer: Raw): string[] {
  const found = new Set<string>();
  if (!DRAWN.has(layer.ty))
    found.add(`it is ${KIND_WORDS[layer.ty as number] ?? `of an unknown kind (${JSON.stringify(layer.ty)})`}, which is not drawn`);
  if (layer.ddd === 1) found.add('its third dimension is left out');
  if (listIn(layer, 'ef').some((e) => e.en !== 0)) found.add('its effects are left out');
  if (listIn(layer, 'sy').length > 0) found.add('its layer styles are left out');
  eachObject(layer.shapes, ({ ty }) => {
    if (typeof ty === 'string' && SHAPE_WORDS[ty] !== undefined) found.add(`${SHAPE_WORDS[ty]} are left out`);
  });
  eachObject(layer.t, (o) => {
    if ('xs' in o || o.rn === 1) found.add('random and expression selectors of its text are left out');
  });
  return [...found].map((what) => `${nameOf(layer)}: ${what}`);
}

/** Problems of the animation as it came (with its expressions), and of what it lacks. `families` are those that text can be set in. */
export function problemsOf(came: Raw, doc: Lottie, families: ReadonlySet<string>): string[] {
  const found: string[] = [];
  for (const { layers, of } of [
    { layers: listIn(came, 'layers'), of: '' },
    ...listIn(came, 'assets').map((a) => ({ layers: listIn(a, 'layers'), of: textIn(a, 'nm') })),
  ])
    for (const layer of layers) {
      let expressions = 0;
      eachObject(layer, (o) => {
        if (typeof o.x === 'string' && ('k' in o || 'a' in o)) expressions += 1;
      });
      const place = of === '' ? '' : `${of} / `;
      if (expressions > 0)
        found.push(
          `${place}${nameOf(layer)}: ${expressions === 1 ? 'an expression is' : `${expressions} expressions are`} not run, the value it had stands`,
        );
      found.push(...ofLayer(layer).map((p) => place + p));
    }
  for (const asset of listIn(doc, 'assets'))
    if (typeof asset.missing === 'string')
      found.push(`the image ${asset.missing || textIn(asset, 'id')} is not in the file, and nothing is fetched`);
  for (const font of listIn((doc.fonts ?? {}) as Raw, 'list')) {
    const family = textIn(font, 'fFamily') || textIn(font, 'fName');
    if (!families.has(family))
      found.push(`the font ${family} is not here: its text is set in another. Bring it in as a font of your own, by this name`);
  }
  return found.length > MOST ? [...found.slice(0, MOST), `and ${found.length - MOST} more`] : found;
}
