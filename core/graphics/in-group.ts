/** What an element has from a group that it is in. */
import { type Element } from './element';

const RADIANS = Math.PI / 180;

/** The middle of an element turned and mirrored about the middle of its group, with its angle and skew to match. */
function turnedWith(e: Element, group: Element): Element {
  const { rotation, flipX, flipY } = group;
  if (rotation % 360 === 0 && !flipX && !flipY) return e;
  const [gx, gy] = [group.x + group.width / 2, group.y + group.height / 2];
  const dx = (e.x + e.width / 2 - gx) * (flipX ? -1 : 1);
  const dy = (e.y + e.height / 2 - gy) * (flipY ? -1 : 1);
  const [cos, sin] = [Math.cos(rotation * RADIANS), Math.sin(rotation * RADIANS)];
  // Mirrored once, everything turns and leans the other way.
  const way = flipX === flipY ? 1 : -1;
  return {
    ...e,
    x: gx + cos * dx - sin * dy - e.width / 2,
    y: gy + sin * dx + cos * dy - e.height / 2,
    rotation: (e.rotation * way + rotation) % 360,
    skewX: e.skewX * way,
    skewY: e.skewY * way,
    flipX: e.flipX !== flipX,
    flipY: e.flipY !== flipY,
  };
}

/** An element with the place, opacity and moves that its group gives it; moves of its own go first. */
export function inGroup(e: Element, group: Element): Element {
  const placed = turnedWith(e, group);
  if (group.opacity >= 1 && !group.in && !group.out && !group.change && !group.hold) return placed;
  return {
    ...placed,
    opacity: placed.opacity * group.opacity,
    in: placed.in ?? group.in,
    out: placed.out ?? group.out,
    change: placed.change ?? group.change,
    hold: placed.hold ?? group.hold,
  };
}
