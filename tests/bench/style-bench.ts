/** A style change that touches many presets, in core alone. */
import { execute } from '#core/desk/execute';
import { placesOfStyle } from '#core/layout/styles';
import { planFrame } from '#core/picture/plan';
import { createAir, type Desk } from '#core/desk/air';
import { createShow } from '#core/desk/create';

/** Milliseconds for one change: listing its places, the command with its patches, and the next frame's plan. */
export function benchStyle(presets: number, rounds: number): { median: number; slowest: number; places: number } {
  let ids = 0;
  let desk: Desk = {
    show: createShow('bench', 'Bench', { width: 1280, height: 720 }, { num: 25, den: 1 }),
    air: { ...createAir(createShow('x', 'x', { width: 2, height: 2 }, { num: 25, den: 1 })) },
  };
  const run = (type: string, args: Record<string, unknown>) => {
    const outcome = execute(desk, { type, args }, { frame: 0, newId: () => `id-${(ids += 1)}` });
    if (!outcome.ok) throw new Error(outcome.error.message);
    desk = outcome.desk;
    return outcome.result;
  };
  const layout = String(run('layout.add', { starter: 'four' }).id);
  const boxes = desk.show.layouts[0]?.boxes.map((b) => b.id) ?? [];
  const style = String(run('style.store', { layout, box: boxes[0], name: 'Shared', properties: ['radius', 'border', 'shadow'] }).id);
  run('style.apply', { style, layout, boxes });
  for (let i = 0; i < presets; i += 1) run('preset.store', { layout, name: `Preset ${i}` });
  run('picture.cut', { picture: layout });
  const times: number[] = [];
  let places = 0;
  for (let i = 0; i < rounds; i += 1) {
    const look = { ...desk.show.styles[0]?.look, radius: i };
    const started = performance.now();
    places = placesOfStyle(desk.show, desk.air, style).length;
    run('style.edit', { style, look });
    planFrame(desk.show, desk.air, i);
    times.push(performance.now() - started);
  }
  times.sort((a, b) => a - b);
  return { median: times[times.length >> 1] ?? NaN, slowest: times.at(-1) ?? NaN, places };
}
