/** Macros that run, and what is recorded for one. Frames are show frames. A run is a function of its start and of what it waited for: nothing is ticked. */
import { type Macro, type Step, type StepAct } from './document';

/** A macro that runs: a copy of its steps, so that editing it never disturbs it. */
export interface Run {
  id: string;
  macroId: string;
  name: string;
  colour: string;
  steps: Step[];
  onFailure: Macro['onFailure'];
  fallbackId: string | null;
  /** Frame at which it began. */
  start: number;
  /** Step that comes next; those before are done. */
  index: number;
  /** Frame at which that became the next one. */
  since: number;
  /** Frame at which a press let it go on; null until then, and for steps that wait for no press. */
  pressed: number | null;
  /** Frame at which it was paused; null while it runs. */
  pausedAt: number | null;
  /** Does one step and is paused again. */
  stepping: boolean;
  /** The macro that started it, and those that started that one. */
  path: string[];
  /** Why steps were refused, the last ones, as far as it went on. */
  refused: { step: number; message: string }[];
  /** Frames by which its steps came too late, at most. */
  late: number;
}

/** An act while it is recorded. */
export interface RecordedAct {
  frame: number;
  act: StepAct;
  /** It came from the remote. */
  elsewhere: boolean;
  /** Acts of the same key, one after another, are one: the last counts. */
  merge: string | null;
}

export interface MacroRecording {
  /** Frame at which it began. */
  start: number;
  acts: RecordedAct[];
}

export interface AutomationAir {
  /** By their identity, in the order in which they were started. */
  runs: Record<string, Run>;
  recording: MacroRecording | null;
  /** What triggers have done, by their identity; none for those that have done nothing since they were armed. */
  triggers: Record<string, TriggerState>;
  /** What the engine has told of levels and outputs, by the key of `toTell`. */
  told: Record<string, boolean>;
  /** No trigger acts, and macros are paused. */
  held: boolean;
  /** What triggers did lately, and why others did not; the oldest first. */
  log: TriggerLine[];
}

export interface TriggerState {
  /** How often it has acted. */
  acted: number;
  /** Frames of the last times. */
  recent: number[];
}

export interface TriggerLine {
  frame: number;
  triggerId: string;
  name: string;
  /** Why nothing was done; null when it was. */
  why: string | null;
}

export const createAutomationAir = (): AutomationAir => ({ runs: {}, recording: null, triggers: {}, told: {}, held: false, log: [] });
