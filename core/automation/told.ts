/** What triggers look at and only the engine can know: levels of sound, and outputs that fail. It is told where something looks at it, and nowhere else. */
import { type Desk } from '../desk/air';
import { type When } from './document';

/** Something that the engine tells. */
export type ToTell = { key: string; of: 'level'; channelId: string; db: number } | { key: string; of: 'stream' | 'recording' };

/** What an event needs to be told; null for those that show and air say themselves. */
export function toTell({ event, channelId, db }: When): ToTell | null {
  if (event === 'stream-fails') return { key: 'stream', of: 'stream' };
  if (event === 'recording-fails') return { key: 'recording', of: 'recording' };
  if (event !== 'level-over' && event !== 'level-under') return null;
  return channelId === null || db === null ? null : { key: `level ${channelId} ${db}`, of: 'level', channelId, db };
}

/** All that has to be told for the triggers that are armed, and for buttons; each once. */
export function allToTell({ automation, pages }: Desk['show']): ToTell[] {
  const looked = [
    ...automation.triggers.filter((t) => t.armed).flatMap((t) => [t.when, ...t.conditions.map((c) => c.is)]),
    ...pages.flatMap((p) => p.buttons.flatMap((b) => (b.lit ? [b.lit.is] : []))),
  ];
  return [...new Map(looked.flatMap((when) => toTell(when) ?? []).map((t) => [t.key, t])).values()];
}

/** What was told of an event; null while nothing was. */
export function wasTold({ air }: Pick<Desk, 'air'>, when: When): boolean | null {
  const wanted = toTell(when);
  return wanted && Object.hasOwn(air.automation.told, wanted.key) ? (air.automation.told[wanted.key] ?? null) : null;
}
