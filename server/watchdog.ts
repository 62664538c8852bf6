/** Keeps the server's process running: one that ends or hangs is told of, and another takes its place. */
import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { type AppOptions } from './app';
import { type FromRun, type ToRun } from './run';

const FIRST_PAUSE_MS = 200;
const LONGEST_PAUSE_MS = 10_000;
/** A process that has run for so long has not failed at its start. */
const SOUND_MS = 60_000;
const PING_MS = 5000;
/** A process that does not answer for so long hangs. */
const HUNG_MS = 20_000;

export interface WatchdogEvents {
  /** The server listens, for the first time. */
  ready: () => void;
  /** It cannot start at all, and why. */
  refused: (message: string) => void;
  /** It ended and is started again. */
  again: (message: string) => void;
}

export interface Watchdog {
  stop: () => void;
  /** Of the server's process now; undefined between two. */
  pid: () => number | undefined;
}

/** Starts the server and keeps it running until it is stopped. */
export function keepServing(options: AppOptions, events: WatchdogEvents): Watchdog {
  let child: ChildProcess | null = null;
  let pause = FIRST_PAUSE_MS;
  let wasReady = false;
  let stopped = false;

  function start(): void {
    const begun = Date.now();
    let heard = begun;
    const process = fork(fileURLToPath(new URL('./run.ts', import.meta.url)), { execArgv: ['--import', 'tsx'] });
    child = process;
    const say = (message: ToRun) => process.connected && process.send(message);
    let pinged = begun;
    const pings = setInterval(() => {
      // A machine that slept has not heard anybody: that is nobody's fault.
      if (Date.now() - pinged > PING_MS * 2) heard = Date.now();
      pinged = Date.now();
      if (Date.now() - heard > HUNG_MS) process.kill('SIGKILL');
      else say({ kind: 'ping' });
    }, PING_MS);
    process.on('message', (message: FromRun) => {
      heard = Date.now();
      if (message.kind === 'ready') {
        if (!wasReady) events.ready();
        wasReady = true;
      } else if (message.kind === 'refused' && !wasReady) {
        stopped = true;
        events.refused(message.message);
      } else if (message.kind === 'refused') process.kill();
    });
    process.on('exit', (code, signal) => {
      clearInterval(pings);
      if (stopped) return;
      pause = Date.now() - begun > SOUND_MS ? FIRST_PAUSE_MS : Math.min(LONGEST_PAUSE_MS, pause * 2);
      events.again(`The server ended unexpectedly (${signal ?? `code ${code}`}) and starts again. The show goes on in its window.`);
      setTimeout(() => !stopped && start(), pause);
    });
    say({ kind: 'start', options });
  }

  start();
  return {
    stop: () => {
      stopped = true;
      child?.kill();
    },
    pid: () => child?.pid,
  };
}
