/**
 * Parts of one show as they come into another: with identities, numbers and names that are free there, and everything that they name found
 * there. Pure.
 */
import { type Macro } from '../automation/document';
import { type Device } from '../devices/document';
import { ENTITIES, type Entity, identityOf } from '../desk/entities';
import { removeFrom } from '../desk/remove';
import { type Show } from '../desk/show';
import { EyePoint, type Box, type Style } from '../layout/document';
import { type Scale, scaleLook, scaleRect } from '../layout/scale';
import { type Delivery } from '../output/document';
import { type Lane, Override } from '../picture/document';
import { type EntityKind, kindsOf, REF_TARGETS, type RefTarget } from '../schema/kinds';
import { type Source } from '../show/source';
import { type Sheet } from '../sheets/document';
import { PROGRAMME_BUS, Send } from '../sound/document';
import { classOf, innerOf, ownersIn, type Part, partKey, type PartKind, valueOf } from './kinds';
import { rename, walkNamed } from '../desk/named';
import { subsetOf } from './subset';

/** What becomes of a part of a file: it comes in beside what is here, in the place of a thing, or a thing that is here serves for it. */
export type Decision = { as: 'new' } | { as: 'replace' | 'use'; id: string };

/** Parts as the command takes them, and what could not come without others. */
export interface Brought {
  things: { kind: PartKind; value: Record<string, unknown> }[];
  eyes: EyePoint[];
  sends: Send[];
  overrides: Override[];
  /** Settings of recording and stream: of what every show has. */
  output: Delivery;
  lost: Part[];
}

const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** The deck that a part of a file is; null for everything else. */
function deckOf(file: Show, part: Part): 1 | 2 | null {
  if (part.kind !== 'source') return null;
  const settings = (valueOf(file, part) as unknown as Source | undefined)?.settings;
  return settings?.kind === 'deck' ? settings.deck : null;
}

/** True for what a show has once at most: it cannot come in beside its like. */
export const isOnly = (file: Show, part: Part): boolean => deckOf(file, part) !== null;

/** What of a show is the same thing as a part of a file: of the same identity, the same deck, or the same name. Null where nothing is. */
export function likeIn(show: Show, file: Show, part: Part): Entity | null {
  const list = ENTITIES[part.kind].list(show);
  const deck = deckOf(file, part);
  return (
    (deck === null ? undefined : show.sources.find(({ settings: s }) => s.kind === 'deck' && s.deck === deck)) ??
    list.find((e) => e.id === part.id) ??
    list.find((e) => sameName(e.name, part.name)) ??
    null
  );
}

/** The thing within another that stands for one of a file: of the same identity or name. */
function counterpart(show: Show, owner: Part, kind: EntityKind, { id, name }: Entity): string | undefined {
  const value = valueOf(show, owner);
  const own = new Set((value ? innerOf(classOf(owner.kind), value) : []).map((inner) => identityOf(inner.kind, inner.value)));
  const list = ENTITIES[kind].list(show).filter((e) => own.has(e.id));
  return (list.find((e) => e.id === id) ?? list.find((e) => e.name !== '' && sameName(e.name, name)))?.id;
}

const entityIn = (show: Show, kind: EntityKind, id: string): Entity =>
  ENTITIES[kind].list(show).find((e) => e.id === id) ?? { id, name: '' };

/** Identities that are given anew, by the keys of what has them in the file. */
class Identities {
  private readonly given = new Map<string, string>();
  private readonly taken: Set<string>;
  private readonly succeeded = new Set<string>();

  constructor(
    show: Show,
    private readonly newId: () => string,
  ) {
    this.taken = new Set(Object.values(ENTITIES).flatMap((traits) => traits.list(show).map((e) => e.id)));
  }

  put(kind: EntityKind, from: string, to: string): void {
    this.given.set(partKey({ kind, id: from }), to);
  }

  /** Its own where that is free, a new one otherwise. */
  give(kind: EntityKind, id: string): void {
    const now = this.taken.has(id) ? this.newId() : id;
    this.taken.add(now);
    this.put(kind, id, now);
  }

  /** That of the thing which it takes the place of; one of its own where another has that already. */
  succeed(kind: EntityKind, id: string, there: string | undefined): void {
    if (there === undefined || this.succeeded.has(there)) return this.give(kind, id);
    this.succeeded.add(there);
    return this.put(kind, id, there);
  }

  of = (kind: EntityKind, id: string): string | undefined => this.given.get(partKey({ kind, id }));

  /** What a reference is called from now on; undefined for what does not come. */
  named(to: RefTarget, id: string): string | undefined {
    for (const kind of kindsOf(to)) {
      const now = this.of(kind, id);
      if (now !== undefined) return now;
    }
    return undefined;
  }
}

const isTarget = (kind: string): kind is RefTarget => Object.hasOwn(REF_TARGETS, kind);

/** Every reference in an object gets the name that its thing has here; what a macro takes unless it is given another, too. */
function renameAll(identities: Identities, kind: PartKind, value: Record<string, unknown>): void {
  walkNamed(classOf(kind), value, (found) => {
    const now = identities.named(found.to, found.id);
    if (now !== undefined) rename(found, now);
  });
  if (kind !== 'macro') return;
  for (const ask of (value as unknown as Macro).asks)
    if (isTarget(ask.kind)) ask.otherwise = identities.named(ask.kind, ask.otherwise) ?? ask.otherwise;
}

/** Lengths in pixels go by the picture size. */
function resize(kind: PartKind, value: Record<string, unknown>, scale: Scale): void {
  const boxes = value as unknown as { boxes: Box[] };
  if (kind === 'layout' || kind === 'preset') boxes.boxes = boxes.boxes.map((box) => scaleLook(box, scale));
  if (kind === 'style') (value as unknown as Style).look = scaleLook((value as unknown as Style).look, scale);
  const lane = value as unknown as Lane;
  if (kind === 'lane' && lane.rect) lane.rect = scaleRect(lane.rect, scale);
}

/** What would act, reach out, or has been allowed elsewhere, waits for somebody here. */
function calm(kind: PartKind, value: Record<string, unknown>): void {
  if (kind === 'trigger') value.armed = false;
  if (kind === 'device') (value as unknown as Device).on = false;
  const { source } = value as unknown as Sheet;
  if (kind === 'sheet' && source.kind === 'address') source.allowed = [];
}

/** Numbers are given up where they are taken, and names get one. `replaced` are the identities of what goes. */
function distinguish(show: Show, things: Brought['things'], replaced: ReadonlySet<string>): void {
  const stays = <T extends { id: string }>(list: readonly T[]) => list.filter((item) => !replaced.has(item.id));
  const pictures = [show.sources, show.framings, show.layouts, show.presets, show.graphics.list, show.guests.gatherings].flatMap((list) =>
    stays<{ id: string; number: number | null }>(list),
  );
  const numbers = { picture: new Set(pictures.map((p) => p.number)), macro: new Set(stays(show.automation.macros).map((m) => m.number)) };
  const names = new Map<PartKind, Set<string>>();
  for (const { kind, value } of things) {
    if (typeof value.number === 'number') {
      const taken = kind === 'macro' ? numbers.macro : numbers.picture;
      if (taken.has(value.number)) value.number = null;
      else taken.add(value.number);
    }
    if (typeof value.name !== 'string' || kind === 'item') continue;
    const used = names.get(kind) ?? new Set(stays(ENTITIES[kind].list(show)).map((e) => e.name.toLowerCase()));
    names.set(kind, used);
    const { name } = value;
    for (let n = 2; used.has((value.name as string).toLowerCase()); n += 1) value.name = `${name.slice(0, 34)} ${n}`;
    used.add((value.name as string).toLowerCase());
  }
}

/**
 * The parts of a show file for which something is decided, as they come into a show; all others stay out, and with them what cannot be
 * without them.
 * `decisions` are by the keys of parts; see `partKey`.
 */
export function bringing(show: Show, file: Show, decisions: ReadonlyMap<string, Decision>, newId: () => string): Brought {
  const { show: sub, lost } = subsetOf(file, new Set(decisions.keys()), { output: true });
  const parts = [...new Set(ownersIn(sub).values())];
  const decided = (part: Part): Decision => decisions.get(partKey(part)) ?? { as: 'use', id: PROGRAMME_BUS };
  // What stands in for a thing may not have all that is within it.
  for (const part of parts) {
    const decision = decided(part);
    if (decision.as !== 'use') continue;
    const inner = innerOf(classOf(part.kind), valueOf(sub, part) ?? {});
    const there = { ...part, id: decision.id };
    removeFrom(
      sub,
      inner.flatMap(({ kind, value }) => {
        const id = identityOf(kind, value);
        return counterpart(show, there, kind, entityIn(sub, kind, id)) === undefined ? [{ kind, id }] : [];
      }),
    );
  }
  const identities = new Identities(show, newId);
  const replaced = new Set<string>();
  const left = new Set([...ownersIn(sub).values()].map(partKey));
  const coming = parts.filter((part) => left.has(partKey(part)));
  for (const part of coming) {
    const decision = decided(part);
    const value = valueOf(sub, part) as Record<string, unknown>;
    const there = decision.as === 'new' ? null : { ...part, id: decision.id };
    if (there) identities.put(part.kind, part.id, there.id);
    else identities.give(part.kind, part.id);
    if (decision.as === 'replace') replaced.add(decision.id);
    for (const inner of innerOf(classOf(part.kind), value)) {
      const id = identityOf(inner.kind, inner.value);
      const same = there ? counterpart(show, there, inner.kind, entityIn(sub, inner.kind, id)) : undefined;
      if (decision.as === 'use' && same !== undefined) identities.put(inner.kind, id, same);
      else identities.succeed(inner.kind, id, same);
    }
  }
  const things = coming.flatMap((part) => {
    if (decided(part).as === 'use') return [];
    const value = valueOf(sub, part) as Record<string, unknown>;
    return [{ kind: part.kind, value }];
  });
  const scale = { x: show.raster.width / file.raster.width, y: show.raster.height / file.raster.height };
  const fresh = new Set(coming.filter((part) => decided(part).as !== 'use').map(({ id }) => id));
  /** What ties things together comes where one of them comes. */
  const ties = <T extends object>(of: new () => T, list: readonly T[]): T[] =>
    list.filter((tie) => {
      let any = false;
      walkNamed(of, tie, ({ id }) => (any ||= fresh.has(id)));
      if (!any) return false;
      walkNamed(of, tie, (found) => rename(found, identities.named(found.to, found.id) ?? found.id));
      return true;
    });
  const [eyes, sends, overrides] = [ties(EyePoint, sub.eyes), ties(Send, sub.sound.sends), ties(Override, sub.overrides)];
  for (const { kind, value } of things) {
    renameAll(identities, kind, value);
    for (const inner of innerOf(classOf(kind), value))
      inner.value.id = identities.of(inner.kind, identityOf(inner.kind, inner.value)) ?? inner.value.id;
    value.id = identities.of(kind, value.id as string) ?? value.id;
    // A picture of the same size is left as it is, to the last digit.
    if (scale.x !== 1 || scale.y !== 1) resize(kind, value, scale);
    calm(kind, value);
  }
  for (const override of overrides) override.id = newId();
  distinguish(show, things, replaced);
  return { things, eyes, sends, overrides, output: sub.output, lost };
}
