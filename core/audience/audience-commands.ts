/** Commands for the page of the audience, and for the graphics that show what comes from it. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { type Graphic, MOST_GRAPHICS } from '../graphics/document';
import { COMMENT_FIELDS, commentCard, pollBars } from '../graphics/gallery/audience';
import { createAirLane } from '../picture/air';
import { createLane, freeLaneNumber } from '../picture/create';
import { type Lane, MOST_LANES } from '../picture/document';
import { Flag, OneOf, Ref, TextList, Whole } from '../schema/fields';
import { createSheet } from '../sheets/create';
import { MOST_SHEETS, type SheetSource } from '../sheets/document';

class SetArgs {
  @Flag('the audience may write comments', { optional: true }) open?: boolean;
  @Whole(1, 60, 'comments a minute that are taken of one sender', { optional: true }) perMinute?: number;
  @TextList(200, 60, 'words that hold a comment back until somebody has looked at it', { optional: true }) words?: string[];
  @Ref('graphic', 'graphic that comments are shown in', { optional: true, nullable: true }) graphic?: string | null;
  @Ref('lane', 'lane that they are shown in', { optional: true, nullable: true }) lane?: string | null;
}
class SetUpArgs {
  @OneOf(['comments', 'poll'], 'comments, or a poll') what!: 'comments' | 'poll';
}

/** The sheet that holds comments or the poll, made where there is none. @throws CommandError when there is no room for it */
function sheetFor({ sheets }: Show, kind: 'comments' | 'poll', newId: () => string): { id: string; name: string } {
  const there = sheets.find(({ source }) => source.kind === kind && (source.kind !== 'poll' || source.pollId === null));
  if (there) return there;
  if (sheets.length >= MOST_SHEETS) throw new CommandError('too-many', `A show holds at most ${MOST_SHEETS} sheets.`);
  const source: SheetSource = kind === 'comments' ? { kind } : { kind: 'poll', pollId: null };
  const wanted = kind === 'comments' ? 'Comments' : 'Poll';
  let name = wanted;
  for (let n = 2; sheets.some((s) => s.name.toLowerCase() === name.toLowerCase()); n += 1) name = `${wanted} ${n}`;
  const sheet = createSheet(newId(), name, source);
  sheets.push(sheet);
  return sheet;
}

function addGraphic({ graphics: { list } }: Show, made: Graphic, newId: () => string): Graphic {
  if (list.length >= MOST_GRAPHICS) throw new CommandError('too-many', `A show holds at most ${MOST_GRAPHICS} graphics.`);
  made.id = newId();
  made.number = null;
  for (const entry of made.entries) entry.id = newId();
  list.push(made);
  return made;
}

/** A lane that holds nothing and shows nothing, or one more; what is up in it follows its sheet at once. @throws CommandError when there are as many as can be */
function freeLane({ show, air }: Desk, name: string, newId: () => string): Lane {
  const free = show.lanes.find((l) => l.content === null && (air.lanes[l.id]?.picture ?? null) === null);
  if (free) return Object.assign(free, { follows: true });
  if (show.lanes.length >= MOST_LANES)
    throw new CommandError('too-many', `All ${MOST_LANES} lanes hold something. Empty one of them, or choose one for comments.`);
  const lane = { ...createLane(newId(), name, freeLaneNumber(show.lanes)), follows: true };
  show.lanes.push(lane);
  air.lanes[lane.id] = createAirLane();
  return lane;
}

export const audienceCommands = [
  defineCommand({
    type: 'audience.set',
    title: 'Set up the page of the audience',
    about: 'Whether they may write, how much is taken of one sender, words that hold a comment back, and where comments are shown.',
    args: SetArgs,
    mergeKey: (change) => `audience:${Object.keys(change).join()}`,
    run: ({ show: { audience } }, { graphic, lane, words, ...change }) => {
      Object.assign(audience, change, graphic !== undefined && { graphicId: graphic }, lane !== undefined && { laneId: lane });
      if (words) audience.words = [...new Set(words.map((w) => w.trim()).filter((w) => w !== ''))];
    },
  }),
  defineCommand({
    type: 'audience.setUp',
    title: 'Set up a graphic for comments or polls',
    about:
      'Adds what is not there yet: a sheet that holds them, a graphic of the gallery that is filled from it, and a lane for it. Returns `graphic`, `sheet` and `lane`.',
    args: SetUpArgs,
    run: (desk, { what }, { newId }) => {
      const { show } = desk;
      const sheet = sheetFor(show, what, newId);
      if (what === 'poll') {
        const bars = addGraphic(show, pollBars(sheet.name), newId);
        const lane = freeLane(desk, 'Poll', newId);
        lane.content = { kind: 'picture', id: bars.entries[0]?.id ?? bars.id };
        return { graphic: bars.id, sheet: sheet.id, lane: lane.id };
      }
      const chosen = show.graphics.list.find((g) => g.id === show.audience.graphicId && g.sheet?.sheetId === sheet.id);
      const graphic = chosen ?? addGraphic(show, commentCard(), newId);
      if (!chosen) Object.assign(graphic, { entries: [], sheet: { sheetId: sheet.id, all: true, columns: [...COMMENT_FIELDS] } });
      show.audience.graphicId = graphic.id;
      if (!show.lanes.some((l) => l.id === show.audience.laneId)) show.audience.laneId = freeLane(desk, 'Comments', newId).id;
      return { graphic: graphic.id, sheet: sheet.id, lane: show.audience.laneId };
    },
  }),
];
