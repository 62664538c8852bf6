/** Seats, framings, layouts and styles of old shows. */
import { listOf, type Migrations } from '../schema/migration';

export const layoutMigrations: Migrations = {
  // There were single sources only.
  2: (show) => ({ ...show, seats: [], eyes: [], framings: [], layouts: [], presets: [], styles: [] }),
  // A style was tied to one framing at most; a preset kept the name of its layout when that was gone; eyes called a framing a source.
  5: (show) => {
    const layouts = new Set([...listOf(show.layouts), ...listOf(show.presets)].map((l) => l.id));
    return {
      ...show,
      eyes: listOf(show.eyes).map(({ sourceId, ...eye }) => ({ ...eye, pictureId: sourceId })),
      presets: listOf(show.presets).map((preset) => ({ ...preset, layoutId: layouts.has(preset.layoutId) ? preset.layoutId : null })),
      styles: listOf(show.styles).map(({ framingId, ...style }) => ({
        ...style,
        framingIds: framingId === null || framingId === undefined ? [] : [framingId],
      })),
    };
  },
};
