/** The guests of the demo: who they are, and where they sit. Invented. */

export interface DemoGuest {
  name: string;
  title: string;
  /** Name of their seat, where the show has it; empty for none. */
  seat: string;
}

export const DEMO_GUESTS: readonly DemoGuest[] = [
  { name: 'Sunniva Marr', title: 'Wind analyst, weather hut', seat: 'Wind analyst' },
  { name: 'Aldo Brask', title: 'Judge, at home', seat: 'Judge' },
  { name: 'Tove Lind', title: 'Kite maker, Lantern Bay', seat: 'Guest 1' },
  { name: 'Emeka Strand', title: 'Last year’s winner', seat: '' },
];
