/** A part of a room that keys go to: it can have the focus itself, when what had it has given it back. Spread onto a landmark (section, aside, nav). */
export const region = (name: string, label: string) => ({ 'data-region': name, tabIndex: -1, 'aria-label': label });
