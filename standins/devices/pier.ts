/** The simulated devices of the demo: a row of lamps with a projector and its shutter, and a second wall. What they are, and what they do with what is said to them. */
import { type OscMessage } from '#core/devices/osc';

export const LAMPS = 8;
export const WALL_LAYOUTS = 6;
export const WALL_CELLS = 4;

/** Ports behind that of the server: where each of them listens. */
export const DEVICE_PORTS = { lamps: 1, wall: 2, projector: 3 } as const;

export type Lamp = 'off' | 'next' | 'air';

/** What their page shows. */
export interface PierState {
  /** They have current. Without it they answer nothing. */
  power: boolean;
  lamps: Lamp[];
  /** The projector's shutter lets light out. */
  shutter: boolean;
  wall: { layout: number; cells: string[] };
  /** What came lately, the newest last. */
  heard: string[];
  /** Why one of them cannot listen; empty when all do. */
  trouble: string[];
}

/** Lines of `heard` that are kept. */
const MOST_HEARD = 30;

const isLamp = (word: string): word is Lamp => word === 'off' || word === 'next' || word === 'air';
const numberIn = (word: string | undefined, most: number): number | null => {
  const n = Number(word);
  return Number.isInteger(n) && n >= 1 && n <= most ? n : null;
};

export class Pier {
  readonly state: PierState = {
    power: true,
    lamps: Array.from({ length: LAMPS }, () => 'off' as const),
    shutter: true,
    wall: { layout: 1, cells: Array.from({ length: WALL_CELLS }, () => '') },
    heard: [],
    trouble: [],
  };

  private hear(line: string): void {
    this.state.heard = [...this.state.heard.slice(1 - MOST_HEARD), line.slice(0, 200)];
  }

  /** A line of text over TCP, and what is answered. */
  line(text: string): string {
    this.hear(`TCP ${text}`);
    const [what, a, b] = text.trim().toLowerCase().split(/\s+/);
    if (what === 'state') return `lamps ${this.state.lamps.join(',')} shutter ${this.state.shutter ? 'open' : 'closed'}`;
    if (what !== 'lamp') return `error: "${(what ?? '').slice(0, 20)}" is neither lamp nor state`;
    const n = numberIn(a, LAMPS);
    if (n === null) return `error: lamps have numbers from 1 to ${LAMPS}`;
    if (b === undefined || !isLamp(b)) return 'error: a lamp is off, next or air';
    this.state.lamps[n - 1] = b;
    return 'ok';
  }

  /** A request of HTTP, and what is answered. */
  request(method: string, path: string, body: string): { status: number; answer: object } {
    this.hear(`HTTP ${method} ${path} ${body}`);
    if (path === '/state') return { status: 200, answer: { shutter: this.state.shutter ? 'open' : 'closed' } };
    if (path !== '/shutter') return { status: 404, answer: { error: 'There is /state and /shutter.' } };
    try {
      const { open } = JSON.parse(body) as { open?: unknown };
      if (typeof open !== 'boolean') return { status: 400, answer: { error: 'Send {"open": true} or {"open": false}.' } };
      this.state.shutter = open;
      return { status: 200, answer: { shutter: open ? 'open' : 'closed' } };
    } catch {
      return { status: 400, answer: { error: 'This is no JSON.' } };
    }
  }

  /** A message of OSC, and what is answered; null for nothing. */
  osc({ address, args }: OscMessage): OscMessage | null {
    this.hear(`OSC ${address} ${args.map((a) => String(a.value)).join(' ')}`);
    const { wall } = this.state;
    if (address === '/wall/layout') {
      const n = numberIn(String(args[0]?.value), WALL_LAYOUTS);
      if (n !== null) wall.layout = n;
      return { address: '/wall/is', args: [{ type: 'i', value: wall.layout }] };
    }
    const cell = numberIn(/^\/wall\/cell\/(\d)$/.exec(address)?.[1], WALL_CELLS);
    if (cell === null) return { address: '/wall/error', args: [{ type: 's', value: 'there is /wall/layout and /wall/cell/1 to 4' }] };
    wall.cells[cell - 1] = String(args[0]?.value ?? '').slice(0, 40);
    return { address: '/wall/cell', args: [{ type: 'i', value: cell }] };
  }
}
