/** An animation comes in: which one of the file, what of it is filled in, where it waits, and what cannot be done of it. */
import { nanoid } from 'nanoid';
import { useEffect, useMemo, useState } from 'react';
import { type Command } from '#core/commands/command';
import { animationContent, animationGraphic, firstFields } from '#core/graphics/animation/create';
import { type PartKind } from '#core/graphics/animation/document';
import { type HoldPoints } from '#core/graphics/animation/stills';
import { causeOf } from '#core/schema/cause';
import { say } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { Check, Choice } from '../parts/fields';
import { openGraphicById, setGraphicsRoom, useGraphicsRoom } from './room-state';

const WHY: Record<HoldPoints['why'], string> = {
  markers: 'as its markers say',
  stillness: 'where nothing moves for longest: it has no marker named hold',
  end: 'at its end: it has no marker named hold, and never stands still',
};
const KIND_WORDS: Record<PartKind, string> = {
  text: 'Texts',
  image: 'Images',
  window: 'Live pictures',
  colour: 'Colours',
  flag: 'Shown or not',
};

export function AnimationDialog() {
  const client = useShowClient();
  const bringing = useGraphicsRoom((s) => s.bringing);
  const { rate, raster } = useShow(({ desk: { show } }) => ({ rate: show.rate, raster: show.raster }));
  const [index, setIndex] = useState(0);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const animation = bringing?.animations[index] ?? bringing?.animations[0];
  const made = useMemo(
    () =>
      animation && bringing
        ? animationContent(animation.doc, {
            assetId: 'not stored yet',
            fileName: bringing.fileName,
            rate,
            problems: animation.problems.length,
          })
        : null,
    [animation, bringing, rate],
  );
  useEffect(() => setChosen(made ? firstFields(made.parts) : []), [made]);
  const close = () => {
    setGraphicsRoom({ bringing: null });
    setIndex(0);
  };
  const bring = async () => {
    if (!animation || !made || !bringing) return;
    try {
      const data = new Blob([JSON.stringify(animation.doc)], { type: 'application/json' });
      const { assetId } = await client.files.keep(new File([data], bringing.fileName, { type: data.type }), 'animation');
      const graphic = animationGraphic(
        nanoid(12),
        animation.name.slice(0, 80) || 'Animation',
        { ...made, content: { ...made.content, assetId } },
        raster,
        chosen,
      );
      const fonts: Command[] = [];
      for (const { family, file } of animation.fonts)
        fonts.push({ type: 'font.add', args: { family, assetId: (await client.files.keep(file, 'font')).assetId, fileName: file.name } });
      const outcome = client.dispatchAll([...fonts, { type: 'graphic.bring', args: { graphic } }]);
      if (!outcome.ok) return say.caution(outcome.error.message);
      openGraphicById(String(outcome.results.at(-1)?.id));
      close();
    } catch (error) {
      say.caution(`${bringing.fileName} cannot be kept: ${causeOf(error)}`);
    }
  };
  const kinds = [...new Set(made?.parts.map((p) => p.kind))];
  return (
    <Dialog
      open={bringing !== null}
      onClose={close}
      wide
      title={`Bring in ${bringing?.fileName ?? 'an animation'}`}
      {...(made && {
        about: `${made.content.width} × ${made.content.height}, ${((made.content.last - made.content.first) / (animation?.doc.fr ?? 1)).toFixed(1)} s. It waits at ${made.content.holds.map((h) => `frame ${h.frame}`).join(', ')}, ${WHY[made.why]}.`,
      })}
    >
      {bringing && bringing.animations.length > 1 && (
        <Choice
          label="Which animation of the file"
          value={String(index)}
          all={bringing.animations.map((a, i) => [String(i), a.name] as const)}
          onChange={(i) => setIndex(Number(i))}
        />
      )}
      {animation && animation.fonts.length > 0 && (
        <p className="text-sm text-muted">Its fonts come along: {animation.fonts.map((f) => f.family).join(', ')}.</p>
      )}
      {animation && animation.problems.length > 0 && (
        <section aria-label="What cannot be done of it">
          <h3 className="text-sm font-semibold text-caution">What cannot be done of it</h3>
          <ul className="max-h-36 list-disc overflow-y-auto pl-5 text-sm">
            {animation.problems.map((p) => (
              <li key={p}>{p}</li>
            ))}
          </ul>
        </section>
      )}
      <div className="min-h-0 flex-1 overflow-y-auto">
        <p className="text-sm text-muted">What is filled in for each entry. More can be chosen later, under Fields.</p>
        {kinds.map((kind) => (
          <section key={kind} aria-label={KIND_WORDS[kind]} className="mt-2">
            <h3 className="text-sm font-semibold">{KIND_WORDS[kind]}</h3>
            {made?.parts
              .filter((p) => p.kind === kind && p.noWindow !== '')
              .map((p) => (
                <p key={p.id} className="text-xs text-muted">
                  No live picture can stand for {p.name}: {p.noWindow}.
                </p>
              ))}
            <div className="grid grid-cols-2 gap-x-3">
              {made?.parts
                .filter((p) => p.kind === kind)
                .map((p) => (
                  <Check
                    key={p.id}
                    label={p.kind === 'text' && p.was !== '' ? `${p.name}: “${p.was.slice(0, 24)}”` : p.name}
                    on={chosen.includes(p.id)}
                    onChange={(on) => setChosen(on ? [...chosen, p.id] : chosen.filter((id) => id !== p.id))}
                  />
                ))}
            </div>
          </section>
        ))}
      </div>
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Leave it</Button>
        <Button look="straw" onClick={() => void bring()}>
          Bring it in
        </Button>
      </div>
    </Dialog>
  );
}
