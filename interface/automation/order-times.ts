/** Times of the running order, drawn again as they change. */
import { orderTimes, type OrderTimes } from '#core/order/times';
import { framesPerSecond } from '#core/time/rate';
import { useLive, useShow, useShowClient } from '../client/show-client';

/** How often times are drawn again, times a second. */
const TIMES_A_SECOND = 4;

/** Times of the running order, as they change. */
export function useOrderTimes(): OrderTimes {
  const client = useShowClient();
  const desk = useShow(({ desk: d }) => d);
  const tick = useLive(({ frame, desk: d }) => Math.floor((frame * TIMES_A_SECOND) / framesPerSecond(d.show.rate)));
  void tick;
  return orderTimes(desk, client.state.frame);
}
