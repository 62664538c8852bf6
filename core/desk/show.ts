/** The show: the document that is saved, exported and undone. */
import { Automation } from '../automation/document';
import { Audience } from '../audience/document';
import { Guests } from '../guests/document';
import { ButtonPage, MOST_PAGES } from '../buttons/document';
import { Device, MOST_DEVICES } from '../devices/document';
import { RunningOrder } from '../order/document';
import { Delivery } from '../output/document';
import { Lane, MOST_LANES, Transition, StoredTransition, Override, Tableau } from '../picture/document';
import { SourceGroup } from '../show/document';
import { Raster, RateField } from '../show/raster';
import { Id, ListOf, Nested, OneOf, Text, Whole } from '../schema/fields';
import { Graphics } from '../graphics/document';
import { type Rate } from '../time/rate';
import { EyePoint, Framing, Layout, Preset, Seat, Style } from '../layout/document';
import { Replay } from '../replay/document';
import { Screens } from '../screens/document';
import { Sound } from '../sound/document';
import { MOST_SHEETS, Sheet } from '../sheets/document';
import { Source } from '../show/source';

export const SHOW_VERSION = 13;

export class Show {
  @OneOf(['bivoca-show'], 'says that this is a show') format!: 'bivoca-show';
  @Whole(1, SHOW_VERSION, 'version of this form') version!: number;
  @Id('identity') id!: string;
  @Text(120, 'name', { min: 1 }) name!: string;
  @Nested(() => Raster, 'picture size') raster!: Raster;
  @Nested(() => RateField, 'frames a second, as a fraction') rate!: Rate;
  @ListOf(() => Source, 500, 'sources in order of the list') sources!: Source[];
  @ListOf(() => SourceGroup, 50, 'groups of sources') groups!: SourceGroup[];
  @ListOf(() => Lane, MOST_LANES, 'lanes from the lowest to the highest') lanes!: Lane[];
  @ListOf(() => Seat, 100, 'seats') seats!: Seat[];
  @ListOf(() => EyePoint, 1000, 'where the eyes are in each source') eyes!: EyePoint[];
  @ListOf(() => Framing, 500, 'framings') framings!: Framing[];
  @ListOf(() => Layout, 200, 'layouts') layouts!: Layout[];
  @ListOf(() => Preset, 500, 'stored states of layouts') presets!: Preset[];
  @ListOf(() => Style, 200, 'styles') styles!: Style[];
  @Nested(() => Transition, 'the armed transition') transition!: Transition;
  @ListOf(() => StoredTransition, 100, 'transitions kept by name; the first are at hand') transitions!: StoredTransition[];
  @ListOf(() => Override, 200, 'transitions of their own for pictures and pairs') overrides!: Override[];
  @Whole(1, 1500, 'fade to black, frames') blackFrames!: number;
  @Nested(() => Sound, 'the sound desk') sound!: Sound;
  @Nested(() => Delivery, 'recording and stream') output!: Delivery;
  @Nested(() => Replay, 'replay') replay!: Replay;
  @Nested(() => Graphics, 'graphics and clocks') graphics!: Graphics;
  @ListOf(() => Sheet, MOST_SHEETS, 'sheets that graphics are filled from') sheets!: Sheet[];
  @ListOf(() => Tableau, 200, 'stored wholes') tableaux!: Tableau[];
  @Nested(() => Automation, 'macros and triggers') automation!: Automation;
  @Nested(() => RunningOrder, 'the running order') order!: RunningOrder;
  @ListOf(() => Device, MOST_DEVICES, 'devices outside') devices!: Device[];
  @ListOf(() => ButtonPage, MOST_PAGES, 'pages of buttons') pages!: ButtonPage[];
  @Nested(() => Screens, 'outputs beside programme and clean programme, and the surfaces of the venue') screens!: Screens;
  @Nested(() => Guests, 'guests and casts') guests!: Guests;
  @Nested(() => Audience, 'comments and polls') audience!: Audience;
}
