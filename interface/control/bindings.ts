/** The operator's bindings of controls, kept in this browser. */
import { create } from 'zustand';
import { type ControlBinding, type ControlEvent, FIRST_BINDINGS } from '#core/control/control';

const KEY = 'bivoca.controls';

function stored(): ControlBinding[] {
  try {
    const list: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(list)
      ? (list as ControlBinding[]).filter((b) => typeof b?.device === 'string' && typeof b.control === 'string')
      : [];
  } catch {
    return [];
  }
}

interface Controls {
  /** Set by the operator; they go before the first ones. */
  own: ControlBinding[];
  /** What each driver says of itself. */
  states: Record<string, string>;
  /** The control that was moved last, for learning. */
  last: { device: string; control: string; kind: ControlEvent['kind'] } | null;
}

export const useControls = create<Controls>(() => ({ own: stored(), states: {}, last: null }));

/** The binding of a control, if any. */
export function bindingOf(device: string, control: string): ControlBinding | undefined {
  const same = (b: ControlBinding) => b.device === device && b.control === control;
  return useControls.getState().own.find(same) ?? FIRST_BINDINGS.find(same);
}

/** Binds a control; whatever it did before it no longer does. */
export function bind(binding: ControlBinding): void {
  const own = [...useControls.getState().own.filter((b) => b.device !== binding.device || b.control !== binding.control), binding];
  useControls.setState({ own });
  localStorage.setItem(KEY, JSON.stringify(own));
}

/** Back to how a control was at first. */
export function unbind(device: string, control: string): void {
  const own = useControls.getState().own.filter((b) => b.device !== device || b.control !== control);
  useControls.setState({ own });
  localStorage.setItem(KEY, JSON.stringify(own));
}
