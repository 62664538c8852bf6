/** What is chosen in the room Guests. */
import { create } from 'zustand';

export const useGuestsRoom = create<{ guest: string | null }>(() => ({ guest: null }));

export const chooseGuest = (guest: string | null): void => useGuestsRoom.setState({ guest });
