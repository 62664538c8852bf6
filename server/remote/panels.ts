/**
 * Those who work shows with a pass. A panel enters with its secret, which is compared with what the host has told; it hears the state, and what
 * it sends is held against the pass. While no window runs the show it waits, and it is let in again when one does.
 */
import { createHash } from 'node:crypto';
import { type IncomingMessage } from 'node:http';
import { type WebSocket } from 'ws';
import { type Connected, type ToListener } from '#core/panels/messages';
import { mayAsk } from '#core/panels/asks';
import { BINARY, together } from '#core/panels/mosaic';
import { isValid, mayWork } from '#core/panels/pass';
import { refusedBy } from '#core/panels/rights';
import { type FromPanel, PANEL_CLOSED, PANEL_VERSION, panelMessage } from '#core/panels/panel-messages';
import { withoutSecrets } from '#core/panels/withhold';
import { isTooDeep } from '#core/schema/depth';
import { addressOf, tooMany, sameSecret } from '../guard';
import { type Throttle } from '../throttle';
import { type HostLine, NoHostError } from './host-line';
import { Panel } from './panel';
import { PanelSound } from './panel-sound';
import { type Relay } from './relay';

/** Panels at most, over all shows. */
const PANEL_LIMIT = 200;
/** Bytes that may wait for a panel before it is left out, and gets the whole state when it has caught up. */
const BEHIND_BYTES = 2_000_000;
/** How long what is looked at is gathered, milliseconds. */
const ASK_MS = 60;
/** A panel that has not entered after this is sent away, milliseconds. */
const ENTER_MS = 10_000;
const SNAPSHOT_PAUSE_MS = 500;
/** How often passes that end are looked for, and delays are measured, milliseconds. */
const LOOK_MS = 2000;

/** Rooms in which files are used. */
const FILE_ROOMS = ['desk', 'graphics', 'layouts'] as const;

export class Panels {
  private readonly panels = new Set<Panel>();
  private readonly timer: NodeJS.Timeout;
  /** What each host was told last of who is there. */
  private readonly people = new WeakMap<HostLine, string>();
  /** What each host was told last of what is looked at, and those that are about to be. */
  private readonly looked = new WeakMap<HostLine, string>();
  private readonly asking = new Set<HostLine>();
  private readonly sound = new PanelSound(this.panels);
  /** Numbers of connections; 0 is the host's. */
  private nextNumber = 1;

  constructor(
    private readonly relay: Relay,
    private readonly guesses: Throttle,
  ) {
    relay.attend({
      hears: () => [...this.panels].flatMap((p) => p.line ?? []),
      told: (line, message) => this.told(line, message),
      arranged: () => this.arrange(),
      bytes: (line, bytes) => this.bytes(line, bytes),
      mosaic: (line) => this.mosaic(line),
      meters: (line) => {
        const order = line.meters;
        if (order) for (const panel of this.panels) if (panel.line === line) panel.post({ kind: 'meters', order });
      },
      talk: (line) => this.sound.tellCrew(line),
      held: (line) => {
        for (const panel of this.panels) if (panel.line === line) panel.post({ kind: 'held', list: line.held });
      },
    });
    this.timer = setInterval(() => this.look(), LOOK_MS);
    this.timer.unref();
  }

  /** Who may bring files: the window of the show, for a pass that works a room in which files are used. */
  passFor(showId: string | null, secret: string): { line: HostLine } | 'away' | 'unknown' | 'no-right' {
    const line = this.relay.find(showId);
    if (!line?.passes) return 'away';
    const hash = createHash('sha256').update(secret).digest('hex');
    const pass = line.passes.find((p) => sameSecret(p.hash, hash));
    if (!pass || !isValid(pass, Date.now())) return 'unknown';
    return FILE_ROOMS.some((r) => mayWork(pass, r)) ? { line } : 'no-right';
  }

  add(socket: WebSocket, request: IncomingMessage): void {
    if (this.panels.size >= PANEL_LIMIT) return socket.close(PANEL_CLOSED.full, 'Too many panels are open here.');
    const panel = new Panel(socket, addressOf(request), request, this.nextNumber);
    this.nextNumber = (this.nextNumber % 0xffff) + 1;
    this.panels.add(panel);
    const entering = setTimeout(() => panel.hash === null && socket.close(PANEL_CLOSED.misread, 'It has not entered.'), ENTER_MS);
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      clearTimeout(entering);
      this.panels.delete(panel);
      const { line } = panel;
      panel.line = null;
      if (line) this.left(line, panel);
      this.relay.follow();
    });
    socket.on('message', (data, isBinary) => {
      if (panel.floods(performance.now())) return socket.close(PANEL_CLOSED.flood, 'More was sent than anybody can press.');
      if (isBinary) return this.sound.spoken(panel, data as Buffer);
      let message: FromPanel | null = null;
      try {
        message = panelMessage(JSON.parse(String(data as Buffer)));
      } catch {
        // Said below.
      }
      if (!message) return socket.close(PANEL_CLOSED.misread, 'This message cannot be read.');
      return void this.take(panel, message);
    });
    return undefined;
  }

  private async take(panel: Panel, message: FromPanel): Promise<void> {
    if (message.kind === 'enter') return this.enter(panel, message);
    if (message.kind === 'pong') {
      panel.delayMs = Math.min(60_000, Math.max(0, Math.round(performance.now() - message.at)));
      return undefined;
    }
    if (message.kind === 'pictures') {
      panel.tiles = message.tiles;
      panel.blind = true;
      if (panel.line) panel.post({ kind: 'mosaic', layout: panel.line.mosaic });
      return panel.line ? this.wantPictures(panel.line) : undefined;
    }
    if (message.kind === 'key') {
      panel.blind = true;
      return panel.line ? this.wantPictures(panel.line) : undefined;
    }
    if (message.kind === 'listen') return this.sound.listen(panel, message.ears);
    if (message.kind === 'talk') return this.sound.talk(panel, message.to);
    if (message.kind === 'ask') {
      const { line, pass } = panel;
      const may = line && pass && isValid(pass, Date.now()) && mayAsk(pass, message.ask);
      const answer = may ? await line.ask(message.ask) : { ok: false as const, message: 'This pass is not for that.' };
      return panel.post({ kind: 'told', key: message.key, answer });
    }
    if (message.kind === 'snapshot') {
      const now = performance.now();
      if (now - panel.askedAt < SNAPSHOT_PAUSE_MS) return undefined;
      panel.askedAt = now;
      return this.greet(panel);
    }
    panel.post({ kind: 'answer', key: message.key, outcome: await this.run(panel, message) });
    return undefined;
  }

  private async run(panel: Panel, { key, commands, ids, gesture }: Extract<FromPanel, { kind: 'command' }>) {
    const { line, pass, session } = panel;
    const refused = (code: 'no-right' | 'failed' | 'bad-argument', message: string) => ({ ok: false as const, error: { code, message } });
    if (!line || !pass) return refused('failed', 'No window runs the show now: nothing was done.');
    if (!isValid(pass, Date.now())) return refused('no-right', 'This pass has ended.');
    if (isTooDeep(commands)) return refused('bad-argument', 'This is nested deeper than any command is.');
    const error = refusedBy(pass, commands);
    if (error) return { ok: false as const, error };
    try {
      const by = { id: pass.id, name: pass.name };
      return await line.command(commands.length === 1 ? commands[0] : commands, { by, session, key, ids, ...(gesture && { gesture }) });
    } catch (fault) {
      if (fault instanceof NoHostError) return refused('failed', `${fault.message} It may have been done all the same.`);
      throw fault;
    }
  }

  private enter(panel: Panel, { version, show, secret }: Extract<FromPanel, { kind: 'enter' }>): void {
    if (panel.hash !== null) return panel.socket.close(PANEL_CLOSED.misread, 'It has entered already.');
    if (version !== PANEL_VERSION)
      return panel.socket.close(PANEL_CLOSED.version, 'This page is of another version than the server: load it anew.');
    if (tooMany(this.guesses, panel.request)) return panel.socket.close(PANEL_CLOSED.slow, 'Too many wrong passes came from here. Wait.');
    panel.hash = createHash('sha256').update(secret).digest('hex');
    panel.showId = show;
    this.settle(panel);
    this.relay.follow();
    return undefined;
  }

  /** Every panel at the window that it works, with the pass as it is now. */
  private arrange(): void {
    for (const panel of this.panels) if (panel.hash !== null) this.settle(panel);
    this.relay.follow();
  }

  private settle(panel: Panel): void {
    const line = this.relay.find(panel.showId);
    const before = panel.line;
    const passes = line?.passes ?? null;
    if (!line || !passes) {
      panel.line = null;
      panel.pass = null;
      if (before || !line) panel.post({ kind: 'waiting' });
      return;
    }
    const pass = passes.find((p) => sameSecret(p.hash, panel.hash ?? '')) ?? null;
    if (!pass || !isValid(pass, Date.now())) {
      panel.line = null;
      // A wrong guess counts against whoever makes it; a pass that was good and is withdrawn does not.
      if (!pass && !panel.pass) this.guesses.wrong(panel.address);
      panel.pass = null;
      panel.socket.close(PANEL_CLOSED.withdrawn, pass ? 'This pass has ended.' : 'This pass is not known here, or was withdrawn.');
      if (before) this.left(before, panel);
      return;
    }
    const same = before === line && JSON.stringify(panel.pass) === JSON.stringify(pass);
    panel.line = line;
    panel.pass = pass;
    if (same) return;
    const { id, name, rooms, until } = pass;
    panel.post({ kind: 'entered', pass: { id, name, rooms, until }, showId: line.show?.id ?? '', session: panel.session });
    if (before !== line) this.greet(panel);
    if (before !== line && panel.tiles.length > 0) this.wantPictures(line);
    this.tellPeople(line);
    this.sound.settled(panel);
  }

  /** A panel works this window no more. */
  private left(line: HostLine, panel: Panel): void {
    this.tellPeople(line);
    this.sound.left(line, panel);
    if (panel.tiles.length > 0) this.wantPictures(line);
  }

  private greet(panel: Panel): void {
    panel.behind = false;
    const { line } = panel;
    if (line?.meters) panel.post({ kind: 'meters', order: line.meters });
    if (line) panel.post({ kind: 'held', list: line.held });
    if (line?.snapshot) panel.post(withoutSecrets(line.snapshot));
  }

  private told(line: HostLine, message: ToListener): void {
    const text = JSON.stringify(message.kind === 'state' || message.kind === 'patches' ? withoutSecrets(message) : message);
    for (const panel of this.panels) {
      if (panel.line !== line || panel.socket.readyState !== panel.socket.OPEN) continue;
      if (panel.socket.bufferedAmount > BEHIND_BYTES) panel.behind = true;
      else if (panel.behind) this.greet(panel);
      else panel.socket.send(text);
    }
  }

  /** Tells a host what its panels look at; soon, and once for many who change at the same time. */
  private wantPictures(line: HostLine): void {
    if (this.asking.has(line)) return;
    this.asking.add(line);
    setTimeout(() => {
      this.asking.delete(line);
      const own = [...this.panels].filter((p) => p.line === line);
      const tiles = together(own.map((p) => p.tiles));
      const text = JSON.stringify(tiles);
      const same = this.looked.get(line) === text;
      this.looked.set(line, text);
      if (!same || own.some((p) => p.tiles.length > 0 && p.blind)) line.pictures(tiles);
    }, ASK_MS).unref();
  }

  private mosaic(line: HostLine): void {
    for (const panel of this.panels) {
      if (panel.line !== line) continue;
      panel.blind = true;
      if (panel.tiles.length > 0) panel.post({ kind: 'mosaic', layout: line.mosaic });
    }
  }

  /** Pictures go to those who look, and to nobody who is behind: it sees again from the next picture that stands by itself. */
  private bytes(line: HostLine, bytes: Buffer): void {
    if (bytes[0] === BINARY.sound || bytes[0] === BINARY.talk) return this.sound.fromHost(line, bytes);
    const isPicture = bytes[0] === BINARY.picture;
    for (const panel of this.panels) {
      if (panel.line !== line || panel.socket.readyState !== panel.socket.OPEN || (isPicture && panel.tiles.length === 0)) continue;
      if (!panel.hears) {
        panel.blind ||= isPicture;
        continue;
      }
      if (isPicture && panel.blind && bytes[1] !== 1) continue;
      if (isPicture) panel.blind = false;
      panel.socket.send(bytes, { binary: true });
    }
  }

  /** Tells a host who is there, when that has changed. */
  private tellPeople(line: HostLine): void {
    const list = [...this.panels].flatMap(({ line: own, pass, since, delayMs }): Connected[] =>
      own === line && pass ? [{ passId: pass.id, since, delayMs }] : [],
    );
    const text = JSON.stringify(list);
    if (this.people.get(line) === text) return;
    this.people.set(line, text);
    line.people(list);
  }

  private look(): void {
    const lines = new Set<HostLine>();
    for (const panel of this.panels) {
      if (panel.pass && !isValid(panel.pass, Date.now())) this.settle(panel);
      if (!panel.line) continue;
      lines.add(panel.line);
      if (panel.socket.bufferedAmount < BEHIND_BYTES) panel.post({ kind: 'ping', at: performance.now() });
    }
    this.sound.look();
    for (const line of lines) this.tellPeople(line);
  }

  close(): void {
    clearInterval(this.timer);
  }
}
