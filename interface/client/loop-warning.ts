/** A command that was refused because it would close a loop, until the crew has decided. */
import { create } from 'zustand';
import { type Command } from '#core/commands/command';

interface LoopWarning {
  warning: { command: Command; message: string } | null;
}

export const useLoopWarning = create<LoopWarning>(() => ({ warning: null }));

export const warnOfLoop = (command: Command, message: string): void => useLoopWarning.setState({ warning: { command, message } });
export const forgetWarning = (): void => useLoopWarning.setState({ warning: null });
