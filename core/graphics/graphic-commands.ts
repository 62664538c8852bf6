/** Commands for graphics as wholes. */
import { CommandError, defineCommand } from '../commands/command';
import { findPicture, pictureByNumber } from '../desk/pictures';
import { remove } from '../desk/remove';
import { check } from '../schema/check';
import { AnyObject, ListOf, Nested, Ref, Text, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { Raster } from '../show/raster';
import { paceOf } from './animation/create';
import { createGraphic } from './create';
import { Graphic, Guide, MOST_GRAPHICS } from './document';
import { checkWindow, graphicOf } from './edit';
import { WholeMove } from './element';
import { allWindowsOf, filledOf, findGraphic } from './find';
import { changedTo, copyOf, plain, sameFilled } from './showing';
import { designProblems } from './validate';

class GraphicArg {
  @Ref('graphic', 'graphic') graphic!: string;
}
class AddArgs {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => Raster, 'raster that it is drawn for; without it, the show’s', { optional: true }) raster?: Raster;
}
class SetArgs extends GraphicArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number on keys; null for none', { optional: true, nullable: true }) number?: number | null;
  @Nested(() => WholeMove, 'how it comes as a whole', { optional: true, nullable: true }) in?: WholeMove | null;
  @Nested(() => WholeMove, 'how it goes as a whole', { optional: true, nullable: true }) out?: WholeMove | null;
  @Whole(1, 3000, 'length as a stinger, frames', { optional: true }) stingerFrames?: number;
  @Whole(0, 3000, 'frame at which the picture changes under it', { optional: true }) cutFrame?: number;
}
class GuidesArgs extends GraphicArg {
  @ListOf(() => Guide, 60, 'guides of the editor') guides!: Guide[];
}
class MoveArgs extends GraphicArg {
  @Whole(0, MOST_GRAPHICS, 'place in the list, from 0') index!: number;
}
class BringArgs {
  @AnyObject('a graphic, as docs/formats.md describes it') graphic!: Record<string, unknown>;
}
class ShownArg {
  @Ref('picture', 'graphic or entry that is on air in the picture') picture!: string;
}

function checkRoom(count: number): void {
  if (count >= MOST_GRAPHICS) throw new CommandError('too-many', `A show holds at most ${MOST_GRAPHICS} graphics.`);
}

export const graphicCommands = [
  defineCommand({
    type: 'graphic.add',
    title: 'Add a graphic',
    about: 'Adds an empty graphic of the show’s picture size. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { name, raster }, { newId }) => {
      checkRoom(show.graphics.list.length);
      const graphic = createGraphic(newId(), name ?? `Graphic ${show.graphics.list.length + 1}`, raster ?? show.raster);
      show.graphics.list.push(graphic);
      return { id: graphic.id };
    },
  }),
  defineCommand({
    type: 'graphic.bring',
    title: 'Bring a graphic in',
    about:
      'Adds a graphic that was made elsewhere. Pictures, clocks and entries that this show does not have are left out. Returns its `id`.',
    args: BringArgs,
    run: (desk, { graphic: raw }, { newId }) => {
      const { show } = desk;
      checkRoom(show.graphics.list.length);
      const problem = check(Graphic, raw)[0] ?? designProblems(raw as unknown as Graphic, 'graphic')[0];
      if (problem)
        throw new CommandError('bad-argument', `This is no graphic: ${problem.path} ${problem.message}.`, `graphic.${problem.path}`);
      const graphic = plainCopy(raw as unknown as Graphic);
      const known = (id: string | null) => (id !== null && findPicture(show, id) ? id : null);
      const clock = (id: string | null) => (show.graphics.clocks.some((c) => c.id === id) ? id : null);
      for (const { content } of graphic.elements) {
        if (content.kind === 'window') content.pictureId = known(content.pictureId);
        if (content.kind === 'clock') content.clockId = clock(content.clockId);
        // It plays as fast as it was made, whatever the rate of the show that it comes from.
        if (content.kind === 'animation') content.pace = paceOf(content.rate, show.rate);
        if ((content.kind === 'table' || content.kind === 'ticker') && !show.sheets.some((s) => s.id === content.sheetId))
          content.sheetId = null;
      }
      if (!show.sheets.some((s) => s.id === graphic.sheet?.sheetId)) graphic.sheet = null;
      for (const value of [...graphic.fields.map((f) => f.default), ...graphic.entries.flatMap((e) => e.values.map((v) => v.value))]) {
        if (value.kind === 'picture') value.pictureId = known(value.pictureId);
        if (value.kind === 'clock') value.clockId = clock(value.clockId);
      }
      // Its identities are given anew; its design stays, so that graphics of one design still change into each other.
      graphic.id = newId();
      graphic.number = null;
      for (const entry of graphic.entries) entry.id = newId();
      show.graphics.list.push(graphic);
      return { id: graphic.id };
    },
  }),
  defineCommand({
    type: 'graphic.duplicate',
    title: 'Duplicate a graphic',
    about: 'Adds a copy of its design after it, without its entries. On air the two change into each other. Returns its `id`.',
    args: GraphicArg,
    run: (desk, { graphic: id }, { newId }) => {
      const { list } = desk.show.graphics;
      checkRoom(list.length);
      const from = graphicOf(desk, id);
      const copy = { ...plainCopy(from), id: newId(), name: `${from.name} copy`.slice(0, 80), number: null, entries: [] };
      list.splice(list.indexOf(from) + 1, 0, copy);
      return { id: copy.id };
    },
  }),
  defineCommand({
    type: 'graphic.set',
    title: 'Set up a graphic',
    about: 'Name, number on keys, moves as a whole, and how it is a stinger.',
    args: SetArgs,
    mergeKey: ({ graphic, ...change }) => `graphic:${graphic}:${Object.keys(change).join()}`,
    run: (desk, { graphic: id, ...change }) => {
      const graphic = graphicOf(desk, id);
      if (typeof change.number === 'number') {
        const other = pictureByNumber(desk.show, change.number);
        if (other && other.id !== id) throw new CommandError('number-taken', `${other.name} has the number ${change.number}.`, 'number');
      }
      Object.assign(graphic, change);
    },
  }),
  defineCommand({
    type: 'graphic.setGuides',
    title: 'Set guides of a graphic',
    about: 'Lines of the editor to snap to.',
    args: GuidesArgs,
    mergeKey: ({ graphic }) => `guides:${graphic}`,
    run: (desk, { graphic, guides }) => {
      graphicOf(desk, graphic).guides = guides;
    },
  }),
  defineCommand({
    type: 'graphic.move',
    title: 'Move a graphic in the list',
    about: 'Puts a graphic to another place of the list.',
    args: MoveArgs,
    run: (desk, { graphic: id, index }) => {
      const { list } = desk.show.graphics;
      const graphic = graphicOf(desk, id);
      list.splice(list.indexOf(graphic), 1);
      list.splice(Math.min(index, list.length), 0, graphic);
    },
  }),
  defineCommand({
    type: 'graphic.remove',
    title: 'Remove a graphic',
    about:
      'With its entries, out of every place that holds them. What is up in a lane stays until it is hidden; refused while it is the picture on air.',
    args: GraphicArg,
    run: (desk, { graphic: id }) => {
      const graphic = graphicOf(desk, id);
      const ids = [id, ...graphic.entries.map((e) => e.id)];
      const onAir = ids.find((i) => desk.air.onAirId === i || desk.air.graphics.shown[i]);
      if (onAir !== undefined) throw new CommandError('on-air', `${graphic.name} is on air. Take another picture first.`, 'graphic');
      remove(desk, 'graphic', id);
    },
  }),
  defineCommand({
    type: 'graphic.changeOnAir',
    title: 'Change a graphic on air',
    about:
      'Shows a graphic that is on air in the picture as it is now, with its edits. Only what differs moves. Lanes have `lane.show` for it.',
    args: ShownArg,
    run: (desk, { picture }, { frame }) => {
      const shown = desk.air.graphics.shown[picture];
      const found = findGraphic(desk.show, picture);
      if (!shown || !found) throw new CommandError('not-shown', 'This graphic is not on air in the picture.', 'picture');
      for (const id of allWindowsOf(found.graphic)) checkWindow(desk, found.graphic, id, 'picture');
      if (!sameFilled(shown, filledOf(found))) desk.air.graphics.shown[picture] = changedTo(plain(shown), copyOf(found), frame);
    },
  }),
];
