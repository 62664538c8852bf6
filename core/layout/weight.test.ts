import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { refsOf } from '#engine/picture/renderer';
import { planFrame } from '../picture/plan';
import { type Desk } from '../desk/air';
import { createBox, createLayout } from './document';
import { readShow } from '../desk/migrate';
import { walkThrough } from './walk-through';
import { isTooMuch, MOST, Weights } from './weight';

/** Eight layouts of sixteen boxes, each showing the one before, put straight into the document. */
function tower(levels = 8, boxes = 16): Desk {
  const desk = sampleDesk();
  const { width, height } = desk.show.raster;
  for (let level = 0; level < levels; level += 1) {
    const content = level === 0 ? { kind: 'source' as const, id: 'a' } : { kind: 'layout' as const, id: `tower-${level - 1}` };
    const list = Array.from({ length: boxes }, (_, i) =>
      createBox(
        `b${i}`,
        `Box ${i}`,
        { x: ((i % 4) * width) / 4, y: (Math.floor(i / 4) * height) / 4, width: width / 4, height: height / 4 },
        content,
      ),
    );
    desk.show.layouts.push({ ...createLayout(`tower-${level}`, `Tower ${level}`), boxes: list });
  }
  return desk;
}

describe('what a picture may hold', () => {
  it('refuses the command that would make it too much, names the layout, and changes nothing', () => {
    let desk = sampleDesk();
    const refused: string[] = [];
    for (let level = 0; level < 8 && refused.length === 0; level += 1) {
      const made = attempt(desk, 'layout.add', { name: `Level ${level}` });
      if (!made.ok) throw new Error(made.error.message);
      desk = made.desk;
      const { id } = desk.show.layouts.at(-1) as { id: string };
      const below = desk.show.layouts.at(-2)?.id;
      for (let i = 0; i < 16; i += 1) {
        const content = level === 0 ? { kind: 'source', id: 'a' } : { kind: 'layout', id: below };
        const outcome = attempt(desk, 'box.add', { layout: id, content, rect: { x: 0, y: 0, width: 16, height: 9 } });
        if (outcome.ok) desk = outcome.desk;
        else refused.push(outcome.error.message);
      }
    }
    expect(refused[0]).toMatch(/^Level 1 would hold 2\d\d pictures, and 256 can be drawn\. Show fewer/);
    expect([...desk.show.layouts].some((l) => isTooMuch(new Weights(desk.show).of(l.id)))).toBe(false);
  });

  it('draws what fits of an old show that holds more, however much, and says so', () => {
    const desk = tower();
    expect(new Weights(desk.show).of('tower-7').items).toBeGreaterThan(1e9);
    expect(() => readShow(JSON.parse(JSON.stringify(desk.show)))).not.toThrow();
    const air = { ...desk.air, onAirId: 'tower-7', nextId: 'tower-6' };
    const { programme, next } = planFrame(desk.show, air, 0);
    expect(refsOf(programme).length).toBeGreaterThan(100);
    expect(refsOf(programme).length).toBeLessThanOrEqual(MOST.items);
    expect(JSON.stringify(next).length).toBeLessThan(200_000);
    expect(
      walkThrough(desk.show, air, {}).some((f) => f.kind === 'too-much' && f.text.startsWith('Tower 7 holds more than a million pictures')),
    ).toBe(true);
  });

  it('bounds the area too, and lets a layout that was too much be made lighter', () => {
    const desk = tower(1, 40);
    const layout = desk.show.layouts[0] as (typeof desk.show.layouts)[0];
    layout.boxes.forEach((box) => Object.assign(box.rect, { x: 0, y: 0, ...desk.show.raster }));
    expect(new Weights(desk.show).of('tower-0')).toEqual({ items: 40, area: 40 });
    expect(planFrame(desk.show, { ...desk.air, onAirId: 'tower-0' }, 0).programme.base).toHaveLength(32);
    const less = must(desk, 'box.remove', { layout: 'tower-0', boxes: ['b0'] });
    expect(less.show.layouts[0]?.boxes).toHaveLength(39);
    const more = attempt(desk, 'box.add', {
      layout: 'tower-0',
      content: { kind: 'source', id: 'a' },
      rect: { x: 0, y: 0, ...desk.show.raster },
    });
    expect(more.ok ? null : more.error.code).toBe('too-much');
  });
});
