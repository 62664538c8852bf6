/** A small venue: two overlapping screens that blend, and an upright one. */
import { type Desk } from '#core/desk/air';
import { type Surface } from '#core/screens/surface';
import { must, sampleDesk } from './sample-show';

/** A desk with a surface of two overlapping screens and one that is turned. */
export function smallWall(): { desk: Desk; id: string; surface: Surface } {
  let desk = must(sampleDesk(), 'surface.add', { name: 'Pier wall', width: 96, height: 48, pitch: 10 });
  const id = desk.show.screens.surfaces[0]!.id;
  const outputs = [
    { name: 'Left', raster: { width: 40, height: 32 } },
    { name: 'Right', raster: { width: 40, height: 32 } },
    { name: 'Sail', raster: { width: 48, height: 24 } },
  ];
  for (const output of outputs) desk = must(desk, 'screen.add', { ...output, shows: { kind: 'surface', surfaceId: id } });
  const [left, right, sail] = desk.show.screens.outputs.map((o) => o.id);
  desk = must(desk, 'surface.addScreen', { surface: id, name: 'Left', outputId: left, rect: { x: 0, y: 0, width: 40, height: 32 } });
  desk = must(desk, 'surface.addScreen', { surface: id, name: 'Right', outputId: right, rect: { x: 30, y: 0, width: 40, height: 32 } });
  desk = must(desk, 'surface.addScreen', { surface: id, name: 'Sail', outputId: sail, rect: { x: 72, y: 0, width: 24, height: 48 } });
  const screens = desk.show.screens.surfaces[0]!.screens.map((s) => s.id);
  desk = must(desk, 'surface.setScreens', { surface: id, screens: screens.slice(0, 2), blends: true });
  desk = must(desk, 'surface.setScreens', { surface: id, screens: screens.slice(2), turn: 'right' });
  return { desk, id, surface: desk.show.screens.surfaces[0]! };
}
