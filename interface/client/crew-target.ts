/** Whom the crew key for one person alone speaks to: a choice of this operator. */
import { create } from 'zustand';
import { HOST_CREW } from '#core/panels/sound-line';
import { type CrewState } from '#engine/client/show-client';

/** `last` is who was heard last. */
export const useCrewTarget = create<{ chosen: string | null; last: string | null }>(() => ({ chosen: null, last: null }));

export const setCrewTarget = (id: string): void => useCrewTarget.setState({ chosen: id });

/** The one who is spoken to: as chosen, otherwise who spoke last, otherwise the window that runs the show, or the first who is there. */
export function crewTarget({ members, you }: Pick<CrewState, 'members' | 'you'>): string | null {
  const self = members.find((m) => m.number === you)?.id;
  const there = members.map((m) => m.id).filter((id) => id !== self);
  const { chosen, last } = useCrewTarget.getState();
  return [chosen, last, HOST_CREW.id].find((id) => id !== null && there.includes(id)) ?? there[0] ?? null;
}
