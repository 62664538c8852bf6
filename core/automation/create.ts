/** New macros and steps. */
import { type Automation } from './document';
import { type CommandAct, type Macro, type Step, type StepAct, type UntilAct, type UntilEvent } from './document';
import { type Trigger, type When, type WhenEvent } from './document';

export const createAutomation = (): Automation => ({ macros: [], triggers: [] });

export const createWhen = (event: WhenEvent, change: Partial<When> = {}): When => ({
  event,
  pictureId: null,
  clockId: null,
  laneId: null,
  sourceId: null,
  sheetId: null,
  macroId: null,
  deviceId: null,
  guestId: null,
  channelId: null,
  db: null,
  deck: null,
  seconds: null,
  row: '',
  column: '',
  value: '',
  ...change,
});

export const createTrigger = (id: string, name: string, when: When, then: CommandAct, change: Partial<Trigger> = {}): Trigger => ({
  id,
  name,
  armed: true,
  when,
  conditions: [],
  once: false,
  every: 0,
  then,
  ...change,
});

/** Colours of macros, handed out in turn. */
const COLOURS = ['#c9955a', '#5fc2b0', '#b58ad6', '#8fbf6a', '#d67f8c', '#5aa9c9'];

export const createMacro = (id: string, name: string, place: number, change: Partial<Macro> = {}): Macro => ({
  id,
  name,
  number: null,
  colour: COLOURS[place % COLOURS.length] as string,
  note: '',
  onFailure: 'stop',
  fallbackId: null,
  asks: [],
  steps: [],
  ...change,
});

export const createStep = (id: string, act: StepAct, change: Partial<Step> = {}): Step => ({
  id,
  on: true,
  joined: false,
  note: '',
  group: '',
  act,
  ...change,
});

export const commandAct = (type: string, args: Record<string, unknown> = {}): CommandAct => ({ kind: 'command', type, args });
export const waitAct = (amount: number, unit: 'frames' | 'seconds' = 'seconds'): StepAct => ({ kind: 'wait', amount, unit });
export const untilAct = (event: UntilEvent, change: Partial<UntilAct> = {}): UntilAct => ({
  kind: 'until',
  event,
  clockId: null,
  sourceId: null,
  macroId: null,
  deck: null,
  time: null,
  ...change,
});
