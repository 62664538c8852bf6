/** What a show does by itself. Macros: lists of steps that can be read, edited, tried and run. Triggers: when something happens, something is done. */
import { AnyObject, byKind, Colour, Flag, Id, ListOf, Nested, Num, OneOf, Ref, Text, Variant, Whole } from '../schema/fields';

export const MOST_MACROS = 200;
export const MOST_STEPS = 1000;

/** A command of the registry with its arguments. They are kept as they are when what they name goes: the step says so then, and nothing is lost. */
export class CommandAct {
  @OneOf(['command'], 'a command') kind!: 'command';
  @Text(60, 'which command', { min: 1 }) type!: string;
  @AnyObject('its arguments') args!: Record<string, unknown>;
}

export const WAIT_UNITS = ['frames', 'seconds'] as const;
/** A wait of a length. */
export class WaitAct {
  @OneOf(['wait'], 'a wait of a length') kind!: 'wait';
  @Num(0, 86_400, 'how long') amount!: number;
  @OneOf(WAIT_UNITS, 'of what') unit!: (typeof WAIT_UNITS)[number];
}

export const UNTIL_EVENTS = ['press', 'transition', 'clock', 'lanes', 'media', 'roll', 'macro', 'time'] as const;
export type UntilEvent = (typeof UNTIL_EVENTS)[number];
/** A wait until something has come to its end. */
export class UntilAct {
  @OneOf(['until'], 'a wait until something happens') kind!: 'until';
  @OneOf(UNTIL_EVENTS, 'a press, or what has to end; a time of day') event!: UntilEvent;
  @Ref('clock', 'clock that has to end', { nullable: true }) clockId!: string | null;
  @Ref('source', 'media that has to end', { nullable: true }) sourceId!: string | null;
  @Ref('macro', 'macro that has to end', { nullable: true }) macroId!: string | null;
  @Whole(1, 2, 'deck whose play-out has to end', { nullable: true }) deck!: 1 | 2 | null;
  @Num(0, 86_400, 'time of day, seconds after midnight', { nullable: true }) time!: number | null;
}

export type StepAct = CommandAct | WaitAct | UntilAct;
export const stepActClass = byKind<StepAct['kind']>({ command: CommandAct, wait: WaitAct, until: UntilAct });

export class Step {
  @Id('identity in its macro') id!: string;
  @Flag('done; false passes it over') on!: boolean;
  /** Steps between two waits fall on one frame anyway; together they are also done all or none. */
  @Flag('together with the step before: all or none of them') joined!: boolean;
  @Text(200, 'note') note!: string;
  /** Steps beside each other with the same words are a group: one can see and switch them as one. */
  @Text(40, 'group that it stands in; empty for none') group!: string;
  @Variant(stepActClass, 'what it does') act!: StepAct;
}

export const ON_FAILURE = ['stop', 'go-on', 'fallback'] as const;

export const ASKED_KINDS = ['picture', 'source', 'layout', 'seat', 'entry', 'lane', 'clock', 'clip', 'message', 'number', 'text'] as const;
export type AskedKind = (typeof ASKED_KINDS)[number];
export const MOST_ASKED = 12;

/** Something that a macro asks for when it is run: its steps name it as `{"asked": "Pilot"}` in the place of a value. */
export class Asked {
  @Id('identity in its macro') id!: string;
  @Text(30, 'name, once in its macro', { min: 1 }) name!: string;
  @OneOf(ASKED_KINDS, 'what is asked for') kind!: AskedKind;
  @Text(200, 'what it is when nothing is given: a number, a text, or the identity of the thing; empty when it has to be given')
  otherwise!: string;
}

export class Macro {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Whole(1, 99, 'number; null for none', { nullable: true }) number!: number | null;
  @Colour('colour') colour!: string;
  @Text(400, 'note') note!: string;
  @OneOf(ON_FAILURE, 'what happens when a step is refused') onFailure!: (typeof ON_FAILURE)[number];
  @Ref('macro', 'macro that runs when a step is refused', { nullable: true }) fallbackId!: string | null;
  @ListOf(() => Asked, MOST_ASKED, 'what it asks for when it is run') asks!: Asked[];
  @ListOf(() => Step, MOST_STEPS, 'steps in order') steps!: Step[];
}

export const MOST_TRIGGERS = 200;

export const WHEN_EVENTS = [
  'clock-ends',
  'clock-passes',
  'on-air',
  'off-air',
  'next',
  'lane-up',
  'lane-down',
  'media-ends',
  'roll-ends',
  'recording-starts',
  'recording-stops',
  'stream-starts',
  'stream-stops',
  'recording-fails',
  'stream-fails',
  'level-over',
  'level-under',
  'source-lost',
  'cell-is',
  'macro-starts',
  'macro-ends',
  'device-says',
  'guest-comes',
  'guest-leaves',
  'hand-goes-up',
  'time',
  'opens',
] as const;
export type WhenEvent = (typeof WHEN_EVENTS)[number];

/** What happens: an event, and the thing that it happens to. Each event looks at its own fields alone. */
export class When {
  @OneOf(WHEN_EVENTS, 'what happens') event!: WhenEvent;
  @Ref('picture', 'picture that comes, goes or is Next', { nullable: true }) pictureId!: string | null;
  @Ref('clock', 'clock', { nullable: true }) clockId!: string | null;
  @Ref('lane', 'lane', { nullable: true }) laneId!: string | null;
  @Ref('source', 'source that is lost, or has played', { nullable: true }) sourceId!: string | null;
  @Ref('sheet', 'sheet', { nullable: true }) sheetId!: string | null;
  @Ref('macro', 'macro that has run', { nullable: true }) macroId!: string | null;
  @Ref('device', 'device that says something', { nullable: true }) deviceId!: string | null;
  @Ref('guest', 'guest; null for any', { nullable: true }) guestId!: string | null;
  @Ref('channel-or-bus', 'channel or bus', { nullable: true }) channelId!: string | null;
  @Num(-60, 0, 'level of it, dBFS', { nullable: true }) db!: number | null;
  @Whole(1, 2, 'deck', { nullable: true }) deck!: 1 | 2 | null;
  @Num(-86_400, 86_400, 'seconds that a clock passes, or after midnight', { nullable: true }) seconds!: number | null;
  @Text(120, 'key of the row of a sheet; its place from 1 where it has none') row!: string;
  @Text(120, 'column of a sheet') column!: string;
  @Text(200, 'what stands in the cell then; what a device says, `*` for anything') value!: string;
}

/** Something that has to be so for a trigger to act. */
export class Condition {
  @Nested(() => When, 'what is looked at: the state after the event') is!: When;
  @Flag('true: it has to be so; false: it must not') so!: boolean;
}

export class Trigger {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Flag('armed') armed!: boolean;
  @Nested(() => When, 'what happens') when!: When;
  @ListOf(() => Condition, 8, 'only if all of these are so') conditions!: Condition[];
  @Flag('once only, until it is armed anew') once!: boolean;
  @Num(0, 86_400, 'not more often than every so many seconds; 0 for no limit') every!: number;
  @Nested(() => CommandAct, 'what is done then') then!: CommandAct;
}

export class Automation {
  @ListOf(() => Macro, MOST_MACROS, 'macros in order of the list') macros!: Macro[];
  @ListOf(() => Trigger, MOST_TRIGGERS, 'triggers in order of the list') triggers!: Trigger[];
}
