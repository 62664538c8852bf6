/** What can stand at a place of a macro's text: names and values, for completion. */
import { aboutForPeople } from '../commands/command';
import { entitiesOf } from '../desk/entities';
import { COMMANDS, findCommand } from '../desk/registry';
import { type Show } from '../desk/show';
import { fieldMap } from '../schema/fields';
import { ASKED_KINDS, ON_FAILURE, type Macro, UNTIL_EVENTS, WAIT_UNITS } from './document';
import { ASKED_NAMES, STEP_KEYS, type TextPath, TOP_NAMES } from './macro-text';
import { canBeStep } from './record';
import { WAITS } from './waits';

export interface TextChoice {
  /** What is put in: a name, or a value as JSON. */
  text: string;
  /** What it is, for people. */
  about: string;
}

/** Choices of one place at most. */
const MOST_CHOICES = 500;

const json = (value: string | number | boolean, about = ''): TextChoice => ({ text: JSON.stringify(value), about });
const oneOf = (values: readonly string[]): TextChoice[] => values.map((v) => json(v));

/** Names that may stand in the object at a path; `command` is the type of the step around it, where it has one. */
export function namesAt(path: TextPath, command: string | null): TextChoice[] {
  if (path.length === 0) return TOP_NAMES.map((n) => ({ text: n, about: '' }));
  if (path.length === 2 && path[0] === 'steps') return STEP_KEYS.map((n) => ({ text: n, about: '' }));
  if (path.length === 2 && path[0] === 'asks') return ASKED_NAMES.map((n) => ({ text: n, about: '' }));
  const spec = command === null ? undefined : findCommand(command);
  if (path.length !== 3 || path[2] !== 'with' || !spec) return [];
  return [...fieldMap(spec.args).values()].map((f) => ({ text: f.name, about: `${f.about}${f.optional ? ', if wanted' : ''}` }));
}

/** Values that may stand at a path. */
export function valuesAt(show: Show, macro: Macro, path: TextPath, command: string | null): TextChoice[] {
  const [top, , name, argument] = path;
  if (top === 'onFailure') return oneOf(ON_FAILURE);
  if (top === 'asks') return name === 'kind' ? oneOf(ASKED_KINDS) : [];
  if (top !== 'steps') return [];
  const things = (to: Parameters<typeof entitiesOf>[1]) =>
    entitiesOf(show, to)
      .slice(0, MOST_CHOICES)
      .map((e) => json(e.id, e.name));
  if (path.length === 3)
    switch (name) {
      case 'do':
        return COMMANDS.filter(canBeStep).map((c) => json(c.type, `${c.title}. ${aboutForPeople(c)}`));
      case 'until':
        return UNTIL_EVENTS.map((e) => json(e, WAITS[e].words));
      case 'unit':
        return oneOf(WAIT_UNITS);
      case 'off':
      case 'together':
        return [json(true), json(false)];
      case 'clockId':
        return things('clock');
      case 'sourceId':
        return things('source');
      case 'macroId':
        return things('macro');
      default:
        return [];
    }
  const spec = command === null ? undefined : findCommand(command);
  const field =
    path.length === 4 && name === 'with' && typeof argument === 'string' && spec ? fieldMap(spec.args).get(argument) : undefined;
  if (!field) return [];
  const asked = macro.asks.map((a) => ({ text: JSON.stringify({ asked: a.name }), about: 'what the macro asks for' }));
  const words = [...field.type.matchAll(/`([^`]+)`/g)].map((m) => json(m[1] as string));
  const flags = field.type === 'true or false' ? [json(true), json(false)] : [];
  return [...(field.ref?.to.flatMap(things) ?? []), ...words, ...flags, ...asked].slice(0, MOST_CHOICES);
}
