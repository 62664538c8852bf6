/** Parts of the interface that come after the first page stands: fetched when they are first shown, or soon after, so that none is missing when the server is away. */
import { type ComponentType, createElement, lazy, Suspense } from 'react';
import { fetchWanted } from '../client/on-its-way';

const waiting: (() => Promise<unknown>)[] = [];
/** The page comes first: how long it is left alone, and the pause between two that are fetched beforehand, milliseconds. */
const FIRST_MS = 2500;
const PAUSE_MS = 100;

/** A component that is fetched when it is wanted; nothing is seen of it until then. */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Loaded = lazy(async () => ({ default: await fetchWanted(load) }));
  waiting.push(load);
  return function Later(props: P) {
    return <Suspense fallback={null}>{createElement(Loaded, props as never)}</Suspense>;
  };
}

/** Fetches what `also` names, and everything that waits, one after another; what cannot be had now is fetched when it is wanted. */
export async function fetchLater(also: readonly (() => Promise<unknown>)[]): Promise<void> {
  waiting.unshift(...also);
  await new Promise((resolve) => setTimeout(resolve, FIRST_MS));
  for (let load = waiting.shift(); load; load = waiting.shift()) {
    await load().catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
  }
}
