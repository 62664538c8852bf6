/** A plan of a surface as it leaves and comes: things by their names. */
import { Flag, ListOf, Nested, Num, OneOf, Text, Whole } from '../schema/fields';
import { type Rect, RectField } from '../show/geometry';
import { LARGEST_CANVAS, MOST_SCREENS, RealSize, TURNS, type Turn } from './surface';

export class PlanScreen {
  @Text(60, 'name of the screen', { min: 1 }) name!: string;
  @Text(60, 'name of the output that feeds it; empty for none') output!: string;
  @Nested(() => RectField, 'place on the canvas') rect!: Rect;
  @Nested(() => RectField, 'active area; null for all pixels of the output', { nullable: true }) area!: Rect | null;
  @OneOf(TURNS, 'how the picture is turned in the output') turn!: Turn;
  @Nested(() => RealSize, 'what it really measures', { nullable: true }) size!: RealSize | null;
  @Flag('its edges are blended') blends!: boolean;
}

export class SurfacePlan {
  @Whole(16, LARGEST_CANVAS, 'width of the canvas, pixels') width!: number;
  @Whole(16, LARGEST_CANVAS, 'height of the canvas, pixels') height!: number;
  @Num(0.05, 1000, 'what a pixel measures, millimetres') pitch!: number;
  @ListOf(() => PlanScreen, MOST_SCREENS, 'screens') screens!: PlanScreen[];
}
