/** The graphic as a Lottie document, for tools elsewhere: what of it is left out is said before. */
import { useMemo } from 'react';
import { asLottie } from '#core/graphics/animation/leave';
import { type Graphic } from '#core/graphics/document';
import { NO_VALUES } from '#core/graphics/find';
import { useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Part } from '../parts/fields';
import { sendLottie } from './graphic-files';

export function LeavePart({ graphic }: { graphic: Graphic }) {
  const rate = useShow(({ desk }) => desk.show.rate);
  const { document, left } = useMemo(() => asLottie({ graphic, values: NO_VALUES }, rate), [graphic, rate]);
  const layers = (document.layers as unknown[]).length;
  return (
    <Part
      title="As a Lottie document"
      action={
        <Button
          unusable={layers === 0 ? 'Nothing of this graphic can be said in such a document.' : null}
          title="Saves it as it is drawn, with its defaults"
          onClick={() => sendLottie(graphic, rate)}
        >
          Save as Lottie
        </Button>
      }
    >
      <p className="text-xs text-muted">
        {layers} {layers === 1 ? 'layer' : 'layers'}; {left.length === 0 ? 'nothing is left out.' : 'left out or simpler:'}
      </p>
      {left.length > 0 && (
        <ul aria-label="What is left out" className="max-h-28 list-disc overflow-y-auto pl-5 text-xs">
          {left.map(({ element, what }, i) => (
            <li key={i}>
              {element}: {what}
            </li>
          ))}
        </ul>
      )}
    </Part>
  );
}
