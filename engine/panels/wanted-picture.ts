/** The pictures that a panel may look at, out of what it has said: a monitor's picture as JSON. */
import { Transition } from '#core/picture/document';
import { check } from '#core/schema/check';
import { isRecord } from '#core/schema/record';
import { type MonitorPicture } from '../picture/messages';

const isId = (value: unknown): value is string => typeof value === 'string' && value.length <= 64;
const isSide = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value) && Math.abs(value) <= 100_000;

function viewOf(raw: unknown): { x: number; y: number; width: number; height: number } | null | undefined {
  if (raw === null) return null;
  if (!isRecord(raw)) return undefined;
  const { x, y, width, height } = raw;
  return isSide(x) && isSide(y) && isSide(width) && isSide(height) && width >= 1 && height >= 1 ? { x, y, width, height } : undefined;
}

/**
 * The picture that `text` names; null when it is none. Plans, such as those of a dry run, are worked out where they are looked at, and are not
 * taken from elsewhere.
 */
export function wantedPicture(text: string): MonitorPicture | null {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return null;
  }
  if (!isRecord(raw)) return null;
  switch (raw.kind) {
    case 'programme':
    case 'clean':
    case 'next':
      return { kind: raw.kind };
    case 'picture':
      return isId(raw.id) ? { kind: 'picture', id: raw.id, ...(raw.matte === true && { matte: true }) } : null;
    case 'guest':
      return isId(raw.id) ? { kind: 'guest', id: raw.id } : null;
    case 'output':
      return isId(raw.id) ? { kind: 'output', id: raw.id } : null;
    case 'over':
      return isId(raw.id) && isId(raw.laneId) && (raw.over === 'air' || raw.over === 'next')
        ? { kind: 'over', over: raw.over, laneId: raw.laneId, id: raw.id }
        : null;
    case 'trial': {
      const { transition, fromId, toId } = raw;
      const [from, to] = [fromId, toId].map((id) => (id === null || isId(id) ? id : undefined));
      if (from === undefined || to === undefined || check(Transition, transition).length > 0) return null;
      return { kind: 'trial', transition: transition as Transition, fromId: from, toId: to };
    }
    case 'canvas': {
      const view = viewOf(raw.view);
      const { surfaceId, which, light = null } = raw;
      if (view === undefined || !isId(surfaceId) || (which !== 'air' && which !== 'next')) return null;
      if (light !== null && light !== 'blended' && light !== 'unblended') return null;
      return { kind: 'canvas', surfaceId, which, view, light, ...(raw.template === true && { template: true }) };
    }
    default:
      return null;
  }
}
