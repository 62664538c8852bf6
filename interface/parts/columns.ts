/** Parts of a room side by side; in a narrow window one below the other. The widths of the columns and the height are the room's. */
export const COLUMNS = 'grid overflow-hidden max-beside:h-auto max-beside:grid-cols-1! max-beside:overflow-visible';
