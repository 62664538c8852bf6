/** What is chosen in the room Screens; lives as long as the page. */
import { create } from 'zustand';
import { type Show } from '#core/desk/show';
import { type ScreenOutput } from '#core/screens/document';

interface ScreensRoomState {
  outputId: string | null;
}

export const useScreensRoom = create<ScreensRoomState>(() => ({ outputId: null }));
export const chooseOutput = (outputId: string | null): void => useScreensRoom.setState({ outputId });

/** The chosen output, the first of the list while none is. */
export const chosenOutput = ({ screens }: Pick<Show, 'screens'>, outputId: string | null): ScreenOutput | undefined =>
  screens.outputs.find((o) => o.id === outputId) ?? screens.outputs[0];
