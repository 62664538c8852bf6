/** Sound between a host and its panels, and among the crew: what is listened to is encoded once for all who hear the same; nobody hears themself. */
import { type CrewMember, type Ears, earsKey, HOST_CREW, isFor, mayHear, MOST_EARS, packSound, unpackSound } from '#core/panels/sound-line';
import { type HostLine } from './host-line';
import { type Panel } from './panel';

/** Who says nothing for so long has let go of the key, milliseconds: a page that hangs does not go on speaking. */
const SILENT_MS = 2000;

export class PanelSound {
  /** What each host was told last of what is listened to, and numbers given: packets on their way are of one choice only. */
  private readonly told = new WeakMap<HostLine, string>();
  private nextEars = 1;

  constructor(private readonly panels: ReadonlySet<Panel>) {}

  private of(line: HostLine): Panel[] {
    return [...this.panels].filter((p) => p.line === line);
  }

  /** A panel wants to hear something from now on, or nothing. */
  listen(panel: Panel, ears: Ears | null): void {
    const { line, pass } = panel;
    panel.ears = null;
    if (!line || !pass || !ears) {
      panel.post({ kind: 'ears', number: null });
      return line ? this.want(line) : undefined;
    }
    const key = earsKey(ears);
    const own = this.of(line);
    const known = own.find((p) => p.ears?.key === key)?.ears;
    let why: string | undefined;
    if (!mayHear(pass, ears)) why = 'This pass hears the programme only: for other sounds it needs to look into Sound.';
    else if (!known && new Set(own.flatMap((p) => p.ears?.key ?? [])).size >= MOST_EARS)
      why = `The crew listens to ${MOST_EARS} different things already. Choose one of them, such as the programme.`;
    else panel.ears = { key, ears, number: known?.number ?? this.number() };
    panel.post({ kind: 'ears', number: panel.ears?.number ?? null, ...(why !== undefined && { why }) });
    return this.want(line);
  }

  private number(): number {
    const number = this.nextEars;
    this.nextEars = (number % 0xffff) + 1;
    return number;
  }

  /** Tells the host what is listened to, when that has changed. */
  private want(line: HostLine): void {
    const wanted = new Map(this.of(line).flatMap(({ ears }) => (ears ? [[ears.number, ears.ears] as const] : [])));
    const list = [...wanted].map(([number, ears]) => ({ number, ears }));
    const text = JSON.stringify(list);
    if (text === (this.told.get(line) ?? '[]')) return;
    this.told.set(line, text);
    line.listen(list);
  }

  /** A panel has come to a window, or its pass has changed there: what it heard is asked for anew, by what it may hear now. */
  settled(panel: Panel): void {
    if (panel.ears) this.listen(panel, panel.ears.ears);
    if (panel.line) this.tellCrew(panel.line);
  }

  left(line: HostLine, panel: Panel): void {
    panel.talkTo = null;
    this.want(line);
    this.tellCrew(line);
  }

  private static member({ number, pass, talkTo }: Panel): CrewMember[] {
    return pass ? [{ number, id: pass.id, name: pass.name, to: talkTo }] : [];
  }

  private static host({ talkTo }: HostLine): CrewMember {
    return { ...HOST_CREW, name: 'Show window', to: talkTo };
  }

  /** Everybody hears who is there, and who speaks to whom. */
  tellCrew(line: HostLine): void {
    const own = this.of(line);
    const list = [PanelSound.host(line), ...own.flatMap((p) => PanelSound.member(p))];
    line.crew(list);
    for (const panel of own) panel.post({ kind: 'crew', list, you: panel.number });
  }

  talk(panel: Panel, to: string | null): void {
    const { line } = panel;
    if (panel.talkTo === to || !line || !panel.pass) return;
    panel.talkTo = to;
    panel.talkedAt = performance.now();
    this.tellCrew(line);
  }

  /** What a panel says goes to whom it speaks to; nothing is said without a key held. */
  spoken(panel: Panel, bytes: Buffer): void {
    const packet = unpackSound('talk', bytes);
    const { line } = panel;
    const [speaker] = PanelSound.member(panel);
    if (!packet || !line || !speaker || panel.talkTo === null) return;
    panel.talkedAt = performance.now();
    const marked = packSound('talk', panel.number, packet.data);
    if (isFor(HOST_CREW, speaker)) line.bytes(marked);
    this.fan(line, speaker, marked);
  }

  private fan(line: HostLine, speaker: CrewMember, bytes: Uint8Array): void {
    for (const panel of this.of(line)) {
      const [member] = PanelSound.member(panel);
      if (member && isFor(member, speaker) && panel.hears) panel.socket.send(bytes, { binary: true });
    }
  }

  /** Sound that a host sends: what is listened to, or what it says to the crew. */
  fromHost(line: HostLine, bytes: Buffer): void {
    const heard = unpackSound('sound', bytes);
    if (heard) {
      for (const panel of this.panels)
        if (panel.line === line && panel.ears?.number === heard.number && panel.hears) panel.socket.send(bytes, { binary: true });
      return;
    }
    const said = unpackSound('talk', bytes);
    if (said && line.talkTo !== null) this.fan(line, PanelSound.host(line), packSound('talk', HOST_CREW.number, said.data));
  }

  /** Ends what nobody says any more. */
  look(): void {
    const now = performance.now();
    for (const panel of this.panels) if (panel.talkTo !== null && now - panel.talkedAt > SILENT_MS) this.talk(panel, null);
  }
}
