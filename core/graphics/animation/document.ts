/** An animation in a graphic: the file it comes from, its parts, and where it waits. Frames are the animation's own. */
import { Id, ListOf, Num, Nums, OneOf, Ref, Text, Whole, Wholes } from '../../schema/fields';

export const PART_KINDS = ['text', 'image', 'window', 'colour', 'flag'] as const;
export type PartKind = (typeof PART_KINDS)[number];

export const MOST_PARTS = 200;

export class AnimationPart {
  @Id('identity in its animation') id!: string;
  @Text(120, 'name') name!: string;
  @OneOf(PART_KINDS, 'what it takes') kind!: PartKind;
  @Text(400, 'where it stands in the animation') path!: string;
  @Wholes(400, 0, 5000, 'layers that it changes') layers!: number[];
  @Nums(7000, -1e6, 1e6, 'where a live picture is, seven numbers a place: frame, x, y, width, height, angle, opacity; empty for others')
  track!: number[];
}
/** From a frame on until a frame nothing moves. */
export class StillStretch {
  @Num(-1e6, 1e6, 'first frame') from!: number;
  @Num(-1e6, 1e6, 'last frame') to!: number;
}
export class HoldPoint {
  @Num(-1e6, 1e6, 'frame at which it waits') frame!: number;
  @Num(0, 86_400, 'goes on by itself after so many seconds; null waits until it is sent on', { nullable: true }) seconds!: number | null;
}
export class LayerUnit {
  @Wholes(5000, 0, 5000, 'layers that are drawn together') layers!: number[];
}
/** What is filled in for a part: words, a colour, `on` or empty, or the identity of an image or a picture. */
export class GivenPart {
  @Id('part of the animation') partId!: string;
  @Text(10_000, 'value') value!: string;
}

export class AnimationContent {
  @OneOf(['animation'], 'animation that was made elsewhere') kind!: 'animation';
  @Ref('asset', 'asset that holds the animation', { nullable: true }) assetId!: string | null;
  @Text(256, 'name of the file as it came') fileName!: string;
  @Num(-1e6, 1e6, 'first frame') first!: number;
  @Num(-1e6, 1e6, 'frame at which it is over') last!: number;
  @Num(0.001, 1000, 'frames of the animation in a frame of the show') pace!: number;
  @Num(0.001, 1000, 'frames a second that it was made for') rate!: number;
  @Num(1, 20_000, 'width that it was made for, pixels') width!: number;
  @Num(1, 20_000, 'height that it was made for, pixels') height!: number;
  @ListOf(() => HoldPoint, 20, 'where it waits, in order; at least one') holds!: HoldPoint[];
  @ListOf(() => StillStretch, 1000, 'stretches in which nothing moves') stills!: StillStretch[];
  @ListOf(() => AnimationPart, MOST_PARTS, 'parts that can be filled in') parts!: AnimationPart[];
  @ListOf(() => LayerUnit, 400, 'layers that are drawn together, back to front') units!: LayerUnit[];
  @ListOf(() => GivenPart, MOST_PARTS, 'what is filled in') given!: GivenPart[];
  @Whole(0, 400, 'problems that were listed when it came in') problems!: number;
}
