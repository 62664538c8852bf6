/** Layers of surfaces that follow styles of boxes. */
import { describe, expect, it } from 'vitest';
import { attempt, must } from '#tests/support/sample-show';
import { smallWall as pier } from '#tests/support/small-wall';
import { type Desk } from '../desk/air';
import { placesOfStyle } from '../layout/styles';
import { surfacePlan } from './look-scene';

const colour = (hex: string) => ({ kind: 'colour', colour: hex });

describe('layers that follow a style of boxes', () => {
  it('have all of it but place and size, keep what is set by hand, and how they look when the style goes', () => {
    const { desk, id } = pier();
    let styled = must(desk, 'layout.add', { name: 'Two' });
    const layout = styled.show.layouts.at(-1)!.id;
    styled = must(styled, 'box.add', { layout, rect: { x: 1, y: 2, width: 30, height: 20 } });
    const box = styled.show.layouts.at(-1)!.boxes[0]!.id;
    styled = must(styled, 'box.set', { layout, boxes: [box], radius: 12, opacity: 0.5 });
    styled = must(styled, 'style.store', { layout, box, name: 'Soft', properties: ['position', 'size', 'radius', 'opacity'] });
    const style = styled.show.styles.at(-1)!.id;
    const rect = { x: 8, y: 4, width: 20, height: 20 };
    styled = must(styled, 'layer.add', { surface: id, content: colour('#204060'), rect });
    const layer = styled.show.screens.surfaces[0]!.look.layers[0]!.id;
    styled = must(styled, 'layer.style', { surface: id, layers: [layer], style });
    const seen = (d: Desk) => surfacePlan(d.show, d.air, d.show.screens.surfaces[0]!, 'next', 0).base[0]!;
    expect(seen(styled)).toMatchObject({ target: rect, opacity: 0.5, radius: 12 });
    expect(placesOfStyle(styled.show, styled.air, style).map((p) => [p.layout, p.onAir])).toEqual([['Pier wall', false]]);
    const onAir = must(styled, 'surface.take', { surfaces: [id], cut: true }, 0);
    expect(placesOfStyle(onAir.show, onAir.air, style).map((p) => p.onAir)).toEqual([true]);
    // A box that the style is changed with changes the layer too.
    const changed = must(must(onAir, 'box.set', { layout, boxes: [box], opacity: 0.8 }), 'style.overwrite', { style, layout, box });
    expect(seen(changed).opacity).toBe(0.8);
    const own = must(changed, 'layer.set', { surface: id, layers: [layer], opacity: 0.25 });
    expect(seen(own)).toMatchObject({ opacity: 0.25, radius: 12 });
    const gone = must(own, 'style.remove', { style });
    expect(seen(gone)).toMatchObject({ target: rect, opacity: 0.25, radius: 12 });
    expect(gone.air.screens.surfaces[id]!.look.layers[0]).toMatchObject({ radius: 12, opacity: 0.8, styleId: null });
    expect(must(own, 'layer.style', { surface: id, layers: [layer], style: null }).show.screens.surfaces[0]!.look.layers[0]).toMatchObject({
      styleId: null,
      radius: 12,
      opacity: 0.25,
    });
    const places = must(styled, 'style.edit', { style, properties: ['position'] });
    expect(attempt(places, 'layer.style', { surface: id, layers: [layer], style })).toMatchObject({
      ok: false,
      error: { code: 'nothing-changes' },
    });
  });
});
