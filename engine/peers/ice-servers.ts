/** Which servers connections ask for a way, as it is set in this browser; none at first. They may have passwords, so they are in no show. */
import { type IceServer, readIceServers } from '#core/peers/ice-servers';

const KEY = 'bivoca.ice-servers';

export const iceServersText = (): string => localStorage.getItem(KEY) ?? '';

/** What is wrong, by the line; empty when it is kept. Connections that are made from now on ask them. */
export function setIceServers(text: string): string[] {
  const { problems } = readIceServers(text);
  if (problems.length === 0) localStorage.setItem(KEY, text);
  return problems;
}

export const iceServers = (): IceServer[] => readIceServers(iceServersText()).servers;
