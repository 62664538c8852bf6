/** What a panel is never told: the key of the stream, by which anybody could stream in the show's name. */
import { type Patch } from 'immer';
import { isRecord } from '../schema/record';
import { type Change, type Snapshot } from './messages';

/** Where secrets stand in `{show, air}`. */
const SECRETS: readonly (readonly string[])[] = [['show', 'output', 'stream', 'key']];

/** A value in which what stands at `path` is empty; the same value where there is nothing to hide. */
function emptied(value: unknown, path: readonly string[]): unknown {
  const [first, ...rest] = path;
  if (first === undefined) return typeof value === 'string' ? '' : value;
  if (!isRecord(value) || !Object.hasOwn(value, first)) return value;
  const inner = emptied(value[first], rest);
  return inner === value[first] ? value : { ...value, [first]: inner };
}

function withoutIn(patch: Patch): Patch {
  return SECRETS.reduce((now, secret) => {
    const leads = now.path.length <= secret.length && now.path.every((part, i) => part === secret[i]);
    if (!leads || now.value === undefined) return now;
    const value = emptied(now.value, secret.slice(now.path.length));
    return value === now.value ? now : { ...now, value };
  }, patch);
}

/** A message as panels are told it. Pure. */
export function withoutSecrets<T extends Snapshot | Change>(message: T): T {
  if (message.kind === 'patches') {
    const patches = message.patches.map(withoutIn);
    return patches.every((p, i) => p === message.patches[i]) ? message : { ...message, patches };
  }
  return SECRETS.reduce<T>((now, secret) => emptied(now, secret) as T, message);
}
