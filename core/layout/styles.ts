/** Styles: boxes follow the properties that a style holds, but for those set by hand. */
import { type Air } from '../desk/air';
import { type Box, type BoxLook, type Layout, type Style, STYLE_PROPERTIES, type StyleProperty } from './document';
import { picturesWithin } from '../desk/pictures';
import { type Show } from '../desk/show';

/** The values of one style property in a look. */
function part(property: StyleProperty, look: BoxLook): Partial<BoxLook> {
  switch (property) {
    case 'view':
      return { zoom: look.zoom, panX: look.panX, panY: look.panY };
    case 'crop':
      return { crop: look.crop };
    case 'fit':
      return { fit: look.fit };
    case 'rotation':
      return { rotation: look.rotation };
    case 'radius':
      return { radius: look.radius };
    case 'border':
      return { border: look.border };
    case 'shadow':
      return { shadow: look.shadow };
    case 'opacity':
      return { opacity: look.opacity };
    case 'key':
      return { key: look.key };
    default:
      return {};
  }
}

/** `look` with the given properties of `from`. Position and size are two properties of one rectangle. */
export function withProperties<T extends BoxLook>(look: T, from: BoxLook, properties: readonly StyleProperty[]): T {
  const changed = { ...look };
  for (const property of properties) {
    if (property === 'position') changed.rect = { ...changed.rect, x: from.rect.x, y: from.rect.y };
    else if (property === 'size') changed.rect = { ...changed.rect, width: from.rect.width, height: from.rect.height };
    else Object.assign(changed, part(property, from));
  }
  return changed;
}

/** Which style properties a change of a box's fields touches. */
export function propertiesOf(change: Partial<BoxLook>, before: BoxLook): StyleProperty[] {
  const touched = new Set<StyleProperty>();
  for (const key of Object.keys(change)) {
    if (key === 'rect' && change.rect) {
      if (change.rect.x !== before.rect.x || change.rect.y !== before.rect.y) touched.add('position');
      if (change.rect.width !== before.rect.width || change.rect.height !== before.rect.height) touched.add('size');
    } else if (key === 'zoom' || key === 'panX' || key === 'panY') touched.add('view');
    else if ((STYLE_PROPERTIES as readonly string[]).includes(key)) touched.add(key as StyleProperty);
  }
  return [...touched];
}

/** The framing that a box shows, also through a seat; null for none. */
function framingOf(show: Show, box: Box): string | null {
  const { content } = box;
  if (content?.kind === 'framing') return content.id ?? null;
  if (content?.kind !== 'seat') return null;
  const occupant = show.seats.find((s) => s.id === content.id)?.occupantId ?? null;
  return show.framings.some((f) => f.id === occupant) ? occupant : null;
}

/** Styles that a box follows: that of its framing first, its own style over it. */
export function stylesOf(show: Show, box: Box): Style[] {
  if (show.styles.length === 0) return [];
  const framing = framingOf(show, box);
  const tied = framing === null ? [] : show.styles.filter((s) => s.framingIds.includes(framing));
  const own = box.styleId === null ? undefined : show.styles.find((s) => s.id === box.styleId);
  return own && !tied.includes(own) ? [...tied, own] : tied;
}

/** A box as it is drawn: with the values of the styles it follows. */
export function effectiveBox(show: Show, box: Box): Box {
  const styles = stylesOf(show, box);
  if (styles.length === 0) return box;
  return styles.reduce(
    (b, style) =>
      withProperties(
        b,
        style.look,
        style.properties.filter((p) => !box.own.includes(p)),
      ),
    box,
  );
}

/** Where a property of a box comes from: the style's name; null when it is the box's own. */
export function sourceOfProperty(show: Show, box: Box, property: StyleProperty): string | null {
  if (box.own.includes(property)) return null;
  return stylesOf(show, box).findLast((s) => s.properties.includes(property))?.name ?? null;
}

/** A box of a layout, or a layer of a surface. */
export interface StylePlace {
  layoutId: string;
  layout: string;
  boxId: string;
  box: string;
  onAir: boolean;
}

/** Takes the values of a style into a box that follows it, which follows it no longer. Works on a draft. */
export function keepWithout(show: Show, box: Box, style: Style): void {
  if (!stylesOf(show, box).includes(style)) return;
  const followed = style.properties.filter((p) => !box.own.includes(p));
  Object.assign(box, withProperties(box, style.look, followed), box.styleId === style.id && { styleId: null });
}

/** Every box that a change of the style touches, those on air first. */
export function placesOfStyle(show: Show, air: Air, styleId: string): StylePlace[] {
  const style = show.styles.find((s) => s.id === styleId);
  if (!style) return [];
  const live = new Set([...picturesWithin(show, air.onAirId), ...picturesWithin(show, air.transition?.fromId ?? null)]);
  const tied = (box: Box) => style.framingIds.length > 0 && style.framingIds.includes(framingOf(show, box) ?? '');
  const follows = (b: Box) => (b.styleId === styleId || tied(b)) && style.properties.some((p) => !b.own.includes(p));
  const of = (layout: Layout): StylePlace[] =>
    layout.boxes
      .filter(follows)
      .map((b) => ({ layoutId: layout.id, layout: layout.name, boxId: b.id, box: b.name, onAir: live.has(layout.id) && b.visible }));
  const onAir = (id: string) => Object.values(air.screens.surfaces).some(({ look }) => look.layers.some((l) => l.id === id && l.visible));
  const onSurfaces = show.screens.surfaces.flatMap(({ id, name, look }) =>
    look.layers.filter((l) => follows(l)).map((l) => ({ layoutId: id, layout: name, boxId: l.id, box: l.name, onAir: onAir(l.id) })),
  );
  const places = [...[...show.layouts, ...show.presets].flatMap(of), ...onSurfaces];
  return [...places.filter((p) => p.onAir), ...places.filter((p) => !p.onAir)];
}
