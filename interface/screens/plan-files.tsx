/** The plan of a surface as a file: on paper, as a template picture, as table and JSON, out and in. */
import { useState } from 'react';
import { type PlanFault, planFromText, planToCsv, planToJson } from '#core/screens/plan-file';
import { type SurfacePlan } from '#core/screens/planned';
import { planSvg, templateSvg } from '#core/screens/plan-svg';
import { type Surface } from '#core/screens/surface';
import { causeOf } from '#core/schema/cause';
import { say } from '../client/say';
import { useSend, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { FileButton } from '../parts/file-button';
import { Popover } from '../parts/popover';
import { fileBase, saveFile } from '../parts/save-file';
import { useScreensRoom } from './room-state';

/** Pixels of the largest canvas that this browser draws as one picture. */
const LARGEST_PNG = 16_384;

/** Draws an SVG in its own pixels. @throws Error when this browser cannot */
async function pngOf(svg: string, width: number, height: number): Promise<Blob> {
  if (Math.max(width, height) > LARGEST_PNG) throw new Error(`${width}×${height} is larger than a picture of ${LARGEST_PNG} pixels can be`);
  const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('this browser gives no canvas');
    context.drawImage(image, 0, 0, width, height);
    return await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    URL.revokeObjectURL(address);
  }
}

interface Bringing {
  name: string;
  plan: SurfacePlan | null;
  faults: PlanFault[];
}

function Asking({ surface, bringing: { name, plan, faults }, onClose }: { surface: Surface; bringing: Bringing; onClose: () => void }) {
  const send = useSend();
  const goes = plan ? surface.screens.filter((s) => !plan.screens.some((p) => p.name.toLowerCase() === s.name.toLowerCase())) : [];
  return (
    <Dialog open wide onClose={onClose} title={`Bring in ${name}`} about="Nothing changes before it is brought in; it is one step of undo.">
      {faults.length > 0 && (
        <ul className="max-h-72 overflow-y-auto text-sm" aria-label="What cannot be read">
          {faults.slice(0, 100).map((f, i) => (
            <li key={i} className="border-b border-line py-0.5">
              {f.row > 0 ? `Line ${f.row}, ` : ''}
              {f.column ? `${f.column}: ` : ''}
              {f.message}
            </li>
          ))}
        </ul>
      )}
      {plan && (
        <p className="py-2 text-sm">
          Canvas {plan.width}×{plan.height}, {plan.pitch} mm a pixel; {plan.screens.length} screens:{' '}
          {plan.screens.map((s) => s.name).join(', ')}.
          {goes.length > 0 && <span className="text-caution"> Not in the plan, and so removed: {goes.map((s) => s.name).join(', ')}.</span>}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button
          look="straw"
          unusable={plan ? null : 'Nothing is brought in by halves: mend the file first.'}
          onClick={() => plan && send('surface.plan', { surface: surface.id, plan }) && onClose()}
        >
          Bring it in
        </Button>
      </div>
    </Dialog>
  );
}

export function PlanFiles({ surface }: { surface: Surface }) {
  const client = useShowClient();
  const unit = useScreensRoom((s) => s.unit);
  const [open, setOpen] = useState(false);
  const [bringing, setBringing] = useState<Bringing | null>(null);
  const show = () => client.state.desk.show;
  const base = fileBase(surface.name, 'surface');
  const save = (text: string, type: string, ending: string) => saveFile(new Blob([text], { type }), `${base} plan.${ending}`);
  const template = () =>
    pngOf(templateSvg(surface), surface.width, surface.height).then(
      (png) => saveFile(png, `${base} template.png`),
      (error: unknown) => void say.caution(`The template cannot be drawn: ${causeOf(error)}.`),
    );
  const print = () => {
    const paper = window.open('', 'bivoca-plan-print');
    if (!paper) return void say.caution('The browser has not let a window open for the plan. Allow windows for this page, and try again.');
    paper.document.title = `${surface.name} plan`;
    paper.document.body.innerHTML = planSvg(show(), surface, unit);
    return paper.print();
  };
  const read = async (file: File) => {
    setOpen(false);
    try {
      setBringing({ name: file.name, ...planFromText(show(), surface, await file.text()) });
    } catch (error) {
      say.caution(`${file.name}: ${causeOf(error)}`);
    }
  };
  return (
    <>
      <Popover
        label="Plan as a file"
        align="end"
        open={open}
        onOpenChange={setOpen}
        trigger={<Button title="The plan on paper, as a picture, as a table; out and in">Plan</Button>}
      >
        <div className="flex w-56 flex-col gap-1">
          <Button title="All numbers on paper, or as PDF" onClick={print}>
            Print…
          </Button>
          <Button onClick={() => save(planSvg(show(), surface, unit), 'image/svg+xml', 'svg')}>Save as SVG</Button>
          <Button
            title="The canvas’s own pixels with all areas and names, for whoever makes pictures for it"
            onClick={() => void template()}
          >
            Save template as PNG
          </Button>
          <Button onClick={() => save(planToCsv(show(), surface), 'text/csv', 'csv')}>Save as CSV</Button>
          <Button onClick={() => save(planToJson(show(), surface), 'application/json', 'json')}>Save as JSON</Button>
          <FileButton label="File of a plan" accept=".csv,.tsv,.txt,.json,text/csv,application/json" onFile={(file) => void read(file)}>
            Bring in CSV or JSON…
          </FileButton>
        </div>
      </Popover>
      {bringing && <Asking surface={surface} bringing={bringing} onClose={() => setBringing(null)} />}
    </>
  );
}
