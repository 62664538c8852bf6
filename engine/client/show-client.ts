/**
 * A client of a show: all that a room sees of it, wherever the show runs. The host of this window is one make of it; a panel on another
 * machine can be the second.
 */
import { type StoreApi } from 'zustand/vanilla';
import { type Command } from '#core/commands/command';
import { type Refusal } from '#core/desk/execute';
import { type ActLog } from '#core/log/act-log';
import { type MidiPortNames } from '../devices/midi-ports';
import { type MeterReading } from '#core/sound/meter';
import { type ExportJob, type ExportTask } from '../replay/export-messages';
import { type MediaSettings, type StillSettings } from '#core/show/source';
import { type FoundAreas, type FoundWindows } from '../picture/find-shapes';
import { type Brought } from '#core/parts/bring';
import { type SavedShow } from '../storage/show-file';
import { type ShowPackage } from '../storage/show-package';
import { type Connected } from '#core/panels/messages';
import { type CrewMember } from '#core/panels/sound-line';
import { type ShortOf } from '#core/guests/line';
import { type WayKind } from '#core/panels/way-in';
import { type Pass, type Rooms } from '#core/panels/pass';
import { type AsRunRow, type PassRow, type RecordingRow, type WayRow } from '../storage/db';
import { type MonitorPicture } from '../picture/messages';
import { type SoundDeviceInfo } from '../sound/device-driver';
import { type LoudnessPoint } from '../sound/loudness-history';
import { type DeskState, type FrameState, type LiveState, type ShowState } from './state';

export type DispatchResult = { ok: true; result: Record<string, unknown> } | { ok: false; error: Refusal };
export type DispatchAllResult = { ok: true; results: Record<string, unknown>[] } | { ok: false; error: Refusal };

/** A store that is only read. */
export type ReadStore<T> = Pick<StoreApi<T>, 'getState' | 'subscribe' | 'getInitialState'>;

/** A monitor's canvas while it is attached. */
export interface AttachedMonitor {
  /** Pixels that it is shown at. */
  resize(width: number, height: number): void;
  detach(): void;
}

/** The day so far: what was done, what went out to devices and came in. */
export type ShowLog = Pick<ActLog, 'first' | 'end' | 'version' | 'line' | 'numbersOf' | 'subscribe'>;

/** What a person at a panel listens to. */
export interface ListeningState {
  on: boolean;
  /** Why nothing is heard; empty while all is well. */
  message: string;
}

/** Listening at a panel, which begins with a press. */
export interface Listening {
  readonly store: ReadStore<ListeningState>;
  on(): void;
  off(): void;
  /** Peak of what is heard now, 0 to 1. */
  readonly peak: number;
}

/** Who is of the crew now, and who speaks. */
export interface CrewState {
  members: readonly CrewMember[];
  /** This window among them; null while the line is down. */
  you: number | null;
  /** Whom this window speaks to; null while no key is held. */
  to: string | null;
  microphone: 'off' | 'opening' | 'open' | 'refused';
  /** Why nobody hears this window; empty while all is well. */
  message: string;
  hearing: boolean;
  /** Numbers of those who are heard now. */
  speaking: readonly number[];
}

/** What the crew says to each other; never in the show. */
export interface ShowCrew {
  readonly store: ReadStore<CrewState>;
  /** Speaks to somebody by identity, or to `all`, until `end`. */
  talk(to: string): void;
  end(): void;
  setHearing(on: boolean): void;
  /** How loud the crew is heard here, 0 to 1. */
  setLevel(level: number): void;
}

/** What is heard and measured. */
export interface ShowSound {
  /** Null where the show runs: there it is always heard. */
  readonly listening: Listening | null;
  readonly store: ReadStore<DeskState>;
  /** Levels of channels and buses, left and right, by identity. */
  readonly readings: ReadonlyMap<string, readonly [MeterReading, MeterReading]>;
  /** Channels and buses that have reached full scale, until they are taken out by hand. */
  readonly clipped: Set<string>;
  readonly history: { of(busId: string): readonly LoudnessPoint[] };
  readonly devices: { list(): Promise<SoundDeviceInfo[]> };
  /** Measures the loudness of a channel before its fader too; null for none. */
  watch(id: string | null): void;
  /** Lets sound start, after a press or a key. */
  wake(): Promise<void>;
  /** How loud the operator hears it on this machine, 0 to 1. */
  setListening(level: number): void;
  setEarsDevice(deviceId: string): Promise<void>;
  listenAt(deviceId: string, pair: number | null): void;
}

/** Small pictures of what replay has recorded. */
export interface ShowReplay {
  thumbnail(trackId: string, frame: number, width: number, exact?: boolean): Promise<ImageBitmap | null>;
}

/** Files made of replay material. */
export interface ShowExports {
  readonly store: ReadStore<{ tasks: ExportTask[] }>;
  /** Resolves with the file, or with null when it failed or was cancelled; the list of tasks says why. `sounds` are the sounds of angles. */
  add(name: string, job: ExportJob, sounds: Record<string, string>): Promise<File | null>;
  cancel(id: string): void;
}

/** What a file is for. */
export type FileUse = 'image' | 'font' | 'animation';

/** A file that is kept; of a font, its family too. */
export interface KeptFile {
  assetId: string;
  family?: string;
}

/** Files that come in and go out where the show runs. */
export interface ShowFiles {
  /** Takes a video or a still in; the settings of a source that shows it. `share` hears how far it is, 0 to 1. @throws AssetError with place, cause and remedy. */
  add(file: File, share?: (done: number) => void): Promise<MediaSettings | StillSettings>;
  /** Keeps a file that a graphic uses. @throws AssetError with place, cause and remedy. */
  keep(file: File, as: FileUse): Promise<KeptFile>;
  /** The transparent openings of a still. */
  findWindows(assetId: string): Promise<FoundWindows>;
  /** The areas of a still made for a venue, in its own pixels. @throws Error when its file is missing or cannot be decoded */
  findAreas(assetId: string): Promise<FoundAreas>;
  readonly sheets: {
    /** From now on a sheet follows this file, also after a reload. */
    follow(sheetId: string, handle: FileSystemFileHandle): Promise<void>;
    /** Asks whether the file of a sheet may be read again, as a browser wants after a reload; call it within a press. */
    again(sheetId: string): Promise<void>;
  };
  readonly parts: {
    /** Parts of the show as a show file: see `subsetOf`. */
    save(keep: ReadonlySet<string>, output: boolean): Promise<SavedShow>;
    /** @throws ShowError with place, cause and remedy. */
    read(file: File): Promise<ShowPackage>;
    /** Keeps those assets of a file that these parts name. Returns those that are not in the file. */
    keep(assets: ShowPackage['assets'], things: Brought['things']): Promise<string[]>;
  };
  /** The as-run log of the show, the oldest line first. */
  asRun(): Promise<AsRunRow[]>;
  readonly recordings: {
    /** All that are kept there, the newest first. */
    list(): Promise<RecordingRow[]>;
    file(row: RecordingRow): Promise<File>;
    rename(id: string, name: string): Promise<void>;
    remove(row: RecordingRow): Promise<void>;
  };
}

/** The ways in for other people. */
export interface ShowPasses {
  readonly store: ReadStore<{ passes: readonly PassRow[]; people: readonly Connected[] }>;
  /** @throws Error in words for people */
  add(name: string, rooms: Rooms, until: number | null): Promise<PassRow>;
  set(id: string, change: Partial<Pick<Pass, 'name' | 'rooms' | 'until'>>): Promise<void>;
  /** Where other machines reach the server; none when it answers this one only. */
  addresses(): Promise<readonly string[]>;
  /** Whoever has come in by it is sent away at once. */
  withdraw(id: string): Promise<void>;
}

/** How a guest's line does. */
export interface GuestFigures {
  /** Of the picture that comes, pixels; 0 for none. */
  width: number;
  height: number;
  frameRate: number;
  kilobits: number;
  /** Packets that did not come, 0 to 1. */
  lostShare: number;
  /** There and back; null while it is not known. */
  delayMs: number | null;
  /** Hum of mains in their sound, Hz; null for none. */
  hum: number | null;
  /** What is sent to them comes back by their microphone. */
  echo: boolean;
  /** What is wrong with their light. */
  light: '' | 'dark' | 'bright';
  /** What they have too little of: the browser lowers what they send by itself. */
  shortOf: ShortOf;
}

/** What a guest has written to the crew. */
export interface GuestWord {
  id: string;
  guestId: string;
  name: string;
  text: string;
  /** Wall time, milliseconds since 1970. */
  at: number;
}

export interface GuestsState {
  /** By the guest's identity; of those who are connected. */
  figures: Readonly<Record<string, GuestFigures>>;
  words: readonly GuestWord[];
}

/** How the lines of guests do, and what they write. */
export interface ShowGuests {
  readonly store: ReadStore<GuestsState>;
  /** Lets the operator of this window hear one guest, wherever they are, beside what is heard; null for nobody. False where that cannot be. */
  hear(guestId: string | null): boolean;
}

/** Ways in by a link; at a panel none are known. */
export interface ShowWays {
  readonly store: ReadStore<{ ways: readonly WayRow[] }>;
  /** A new link, which ends the one before; until a wall time, or until it is withdrawn. @throws Error in words at a panel */
  make(kind: WayKind, id: string, until: number | null): Promise<WayRow>;
  withdraw(kind: WayKind, id: string): Promise<void>;
}

/** How it goes with the audience. */
export interface AudienceState {
  /** Pages that are open now. */
  people: number;
  /** Comments that nobody was shown, as more came than can be read. */
  passed: number;
}

export interface ShowAudience {
  readonly store: ReadStore<AudienceState>;
}

/** What a client that is a panel knows of its line to the show. */
export interface PanelState {
  /** `away`: no window runs the show now; what is seen stands still. */
  line: 'opening' | 'open' | 'away' | 'lost' | 'refused';
  /** Why, in words; empty while all is well. */
  message: string;
  pass: Pass | null;
  /** Commands that the show has not answered yet. */
  sent: number;
  /** A file on its way to the show, and how much of it is there, 0 to 1. */
  upload: { name: string; share: number } | null;
}

export interface ShowClient {
  readonly showId: string;
  /** Null where the show runs. */
  readonly panel: ReadStore<PanelState> | null;
  /** Null for a panel: passes are made where the show runs. */
  readonly passes: ShowPasses | null;
  readonly store: ReadStore<ShowState>;
  readonly frames: ReadStore<FrameState>;
  /** Both stores together, as they are now. */
  readonly state: LiveState;
  readonly sound: ShowSound;
  readonly crew: ShowCrew;
  readonly guests: ShowGuests;
  readonly ways: ShowWays;
  readonly audience: ShowAudience;
  readonly replay: ShowReplay;
  readonly exports: ShowExports;
  readonly files: ShowFiles;
  readonly log: ShowLog;
  readonly devices: { midiPorts(): Promise<MidiPortNames> };
  /** Sends a command; never throws. */
  dispatch(command: Command): DispatchResult;
  /** Sends several as one step: all of them are done, or none; undone together. All steps of one `gesture` are undone together too. */
  dispatchAll(commands: readonly Command[], gesture?: string): DispatchAllResult;
  /** Calls `listener` at every mixed frame. Returns how to stop. */
  onTick(listener: (frame: number) => void): () => void;
  /** Gives a canvas over, in which `picture` is shown from now on. */
  attachMonitor(canvas: HTMLCanvasElement, picture: MonitorPicture): AttachedMonitor;
  /** The press that a source needs before it may be opened, as a screen does. Call it within the press itself. */
  pressSource(id: string): void;
  /** Opens a lost source anew. */
  restartSource(id: string): void;
  /** Takes a notice off the screen. */
  dismiss(noticeId: string): void;
}
