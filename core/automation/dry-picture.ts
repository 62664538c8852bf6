/** What would be on air after a step of a macro that is tried dry, as a plan that a monitor draws. Pure. */
import { type Desk } from '../desk/air';
import { type DrawItem, type PicturePlan, type TextureRef } from '../picture/draw';
import { planFrame } from '../picture/plan';
import { untilAct } from './create';
import { type Run } from './air';
import { type UntilEvent } from './document';
import { WAITS } from './waits';

/** What moves on air for longer than this is shown on its way, frames. */
const MOST_REST = 500;

/** Frame at which transition and lanes have come to rest. */
function restsAt(desk: Desk, frame: number): number {
  const ends = (event: UntilEvent) => WAITS[event].ends(desk, untilAct(event), { since: frame } as Run) ?? frame;
  return Math.min(frame + MOST_REST, Math.max(frame, ends('transition'), ends('lanes')));
}

const apartTexture = (texture: TextureRef, name: string): TextureRef => {
  if (texture.kind === 'paint') return { ...texture, slot: `${name}/${texture.slot}` };
  return texture.kind === 'scene' ? { ...texture, scene: texture.scene.map((item) => apart(item, name)) } : texture;
};

/** What is shown here must not stand in for what is on air. */
function apart(item: DrawItem, name: string): DrawItem {
  const { key } = item;
  return {
    ...item,
    texture: apartTexture(item.texture, name),
    ...(key?.kind === 'fill' && { key: { ...key, texture: apartTexture(key.texture, name) } }),
  };
}

/** The programme after a step, once it has come to rest. */
export function pictureAfter(desk: Desk, frame: number): PicturePlan {
  const { base, lanes, top = [], black } = planFrame(desk.show, desk.air, restsAt(desk, frame)).programme;
  const own = (items: readonly DrawItem[]) => items.map((item) => apart(item, 'dry'));
  return { base: own(base), over: null, mix: null, lanes: own(lanes), black, top: own(top) };
}

/** True when what the audience sees may be another after an act: a cheap look, before the plan is worked out. */
export const mayLookOther = ({ show, air }: Desk, { show: oldShow, air: oldAir }: Desk): boolean =>
  show !== oldShow ||
  air.onAirId !== oldAir.onAirId ||
  air.transition !== oldAir.transition ||
  air.lanes !== oldAir.lanes ||
  air.black !== oldAir.black ||
  air.graphics !== oldAir.graphics;
