/** What outputs show for the moment in the place of what they show otherwise: black, a test picture, their card. */
import { type Shows } from './document';

/** What may stand in the place of everything. */
export type Over = Extract<Shows, { kind: 'black' | 'test' | 'card' }>;

export interface ScreensAir {
  /** By the identity of the output. */
  over: Record<string, Over>;
}

export const createScreensAir = (): ScreensAir => ({ over: {} });
