/** Holds a room that fails back from the show. */
import { Component, type ReactNode } from 'react';
import { causeOf } from '#core/schema/cause';
import { Button } from '../parts/button';

/** Holds a fault of one room back from the show: what is on air, recorded and streamed goes on, and the room can be opened again. */
export class RoomGuard extends Component<{ children: ReactNode }, { fault: string | null }> {
  override state = { fault: null as string | null };

  static getDerivedStateFromError(error: unknown): { fault: string } {
    return { fault: causeOf(error) };
  }

  override componentDidCatch(error: unknown): void {
    console.error(error);
  }

  override render(): ReactNode {
    if (this.state.fault === null) return this.props.children;
    return (
      <main className="flex flex-col items-start gap-3 p-6" role="alert">
        <p className="text-lg font-semibold">This room has failed. The show goes on: air, recording and stream are not touched.</p>
        <p className="text-muted">{this.state.fault}</p>
        <Button look="straw" onClick={() => this.setState({ fault: null })}>
          Open the room again
        </Button>
      </main>
    );
  }
}
