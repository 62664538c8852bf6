/** Who else has a thing in hand just now. */
import { Hand } from 'lucide-react';
import { heldByOther } from '#core/panels/held';
import { HOST_CREW } from '#core/panels/sound-line';
import { useShow, useShowClient } from '../client/show-client';

/** Gives the name of whoever else works a thing now; null for nobody. */
export function useHolders(): (id: string) => string | null {
  const { panel } = useShowClient();
  const held = useShow((s) => s.held);
  return (id) => heldByOther(held, id, panel?.getState().pass?.id ?? HOST_CREW.id);
}

export function HeldBy({ id, className = '' }: { id: string; className?: string }) {
  const name = useHolders()(id);
  if (name === null) return null;
  return (
    <span className={`flex min-w-0 items-center gap-0.5 font-semibold ${className}`} title={`${name} works this now`} data-held-by={name}>
      <Hand aria-hidden size={12} className="shrink-0" />
      <span className="truncate">{name}</span>
    </span>
  );
}
