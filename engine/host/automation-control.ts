/** Runs macros: what is due in a few frames is sent now, and takes effect on its very frame. */
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { carryOut } from '#core/automation/carry-out';
import { nextDue } from '#core/automation/runs';
import { type Facts, happened } from '#core/automation/watch';
import { type Follower, type HostAccess } from './follower';

/** Frames ahead that steps are sent: the page may be busy for as long. */
export const AHEAD_FRAMES = 6;
/** Acts in one go; what is left comes with the next frame, so that macros that go round in circles do not stop the show. */
const MOST_AT_ONCE = 400;

export class AutomationControl implements Follower {
  private asked = false;
  private closed = false;
  private facts: Facts | null = null;

  constructor(
    private readonly access: HostAccess,
    /** Defers until whoever sends now is done. */
    private readonly defer: (callback: () => void) => void = (callback) => queueMicrotask(callback),
  ) {}

  follow({ air }: Desk): void {
    if (this.asked || Object.keys(air.automation.runs).length === 0) return;
    // What has just been started begins before the next frame.
    this.asked = true;
    this.defer(() => {
      this.asked = false;
      this.carryOn(this.access.state().frame);
    });
  }

  tick(desk: Desk, frame: number): void {
    this.watch(frame);
    if (Object.keys(desk.air.automation.runs).length > 0) this.carryOn(frame);
  }

  close(): void {
    this.closed = true;
  }

  /** What has happened since the frame before, and what triggers do about it. */
  private watch(frame: number): void {
    const { desk } = this.access.state();
    const { facts, list } = happened(this.facts, desk, frame, AHEAD_FRAMES);
    this.facts = facts;
    if (desk.air.automation.held) return;
    for (const { trigger, frame: at, why, circle } of list) {
      const acted = (reason: string | null) => ({ type: 'trigger.acted', args: { trigger: trigger.id, at, why: reason } });
      if (circle) {
        this.access.command({ type: 'trigger.set', args: { trigger: trigger.id, armed: false } });
        this.access.notify('caution', `Trigger ${trigger.name} was disarmed: ${why}. Look what sets it off again.`);
      }
      if (why !== null) {
        this.access.command(acted(why));
        continue;
      }
      const { type, args } = trigger.then;
      const done = this.access.commandsAt([{ type, args }, acted(null)], at, `trigger ${trigger.id} ${at}`);
      if (done && !done.ok) {
        this.access.command(acted(done.error.message.slice(0, 400)));
        this.access.notify('caution', `Trigger ${trigger.name}: ${done.error.message}`);
      }
    }
  }

  private carryOn(frame: number): void {
    for (let i = 0; i < MOST_AT_ONCE && !this.closed; i += 1) {
      const { desk } = this.access.state();
      const due = nextDue(desk, frame + AHEAD_FRAMES);
      if (!due) return;
      const refused = carryOut(due, (commands, at) => this.send(commands, at, due.run.id));
      if (refused) this.access.notify('caution', `Macro ${refused.macro}, step ${refused.step + 1}: ${refused.message}`);
    }
  }

  private send(commands: readonly Command[], at: number, run: string): ReturnType<Parameters<typeof carryOut>[1]> {
    return this.access.commandsAt(commands, at, `macro ${run}`) ?? { ok: false, error: { message: 'The show is closed.' } };
  }
}
