/** The running order as a table: CSV out, CSV in with every fault said before anything changes, and printed. */
import { useState } from 'react';
import { type OrderFault, orderFromCsv, orderToCsv } from '#core/order/order-file';
import { type OrderItem } from '#core/order/document';
import { causeOf } from '#core/schema/cause';
import { say } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { FileButton } from '../parts/file-button';
import { Popover } from '../parts/popover';
import { fileBase, saveFile } from '../parts/save-file';

interface Bringing {
  fileName: string;
  items: OrderItem[];
  faults: OrderFault[];
}

/** Faults that are listed; a file with more has something wrong with it as a whole. */
const MOST_LISTED = 100;

const fileName = (name: string): string => `${fileBase(name, 'show')} running order.csv`;

function Asking({ bringing: { fileName: name, items, faults }, onClose }: { bringing: Bringing; onClose: () => void }) {
  const client = useShowClient();
  const there = useShow(({ desk }) => desk.show.order.items.length);
  const bring = (replace: boolean) => {
    const done = client.dispatch({ type: 'order.bring', args: { list: items, replace } });
    if (!done.ok) return void say.caution(`${name}: ${done.error.message}`);
    say.good(`${items.length} ${items.length === 1 ? 'item' : 'items'} brought in.`);
    return onClose();
  };
  return (
    <Dialog open onClose={onClose} wide title={`Bring in ${name}`} about="Nothing changes before it is brought in; it is one step of undo.">
      {faults.length > 0 && (
        <section aria-label="What cannot be read">
          <p className="text-caution">
            {faults.length === 1 ? 'One cell cannot be read' : `${faults.length} cells cannot be read`}: what they say is left out.
          </p>
          <ul className="max-h-60 overflow-y-auto text-sm">
            {faults.slice(0, MOST_LISTED).map((f, i) => (
              <li key={i} className="border-b border-line py-0.5">
                {f.row > 0 ? `Line ${f.row}, ${f.column}: ` : ''}
                {f.message}
              </li>
            ))}
          </ul>
        </section>
      )}
      <p className="py-2">
        {items.length} {items.length === 1 ? 'item' : 'items'}:{' '}
        {items
          .slice(0, 8)
          .map((i) => i.name)
          .join(', ')}
        {items.length > 8 ? ' …' : ''}
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        {there > 0 && (
          <Button title="The items that are there go; undo brings them back" onClick={() => bring(true)}>
            In place of the {there} there
          </Button>
        )}
        <Button look="straw" onClick={() => bring(false)}>
          {there > 0 ? 'Behind them' : 'Bring it in'}
        </Button>
      </div>
    </Dialog>
  );
}

export function OrderFiles() {
  const client = useShowClient();
  const [bringing, setBringing] = useState<Bringing | null>(null);
  const [open, setOpen] = useState(false);
  const read = async (file: File) => {
    setOpen(false);
    try {
      const { items, faults } = orderFromCsv(client.state.desk, await file.text());
      const [first] = faults;
      if (first?.row === 0) return void say.caution(`${file.name}: ${first.message}`);
      if (items.length === 0) return void say.caution(`${file.name}: below its head there is no line.`);
      return setBringing({ fileName: file.name, items, faults });
    } catch (error) {
      return void say.caution(`${file.name}: ${causeOf(error)}`);
    }
  };
  const save = () => {
    const { desk } = client.state;
    saveFile(new Blob([orderToCsv(desk)], { type: 'text/csv' }), fileName(desk.show.name));
  };
  const print = () =>
    void window.open(`/order?${new URLSearchParams({ show: client.state.desk.show.id, print: '1' }).toString()}`, 'bivoca-order-print');
  return (
    <>
      <Popover
        label="Running order as a file"
        align="start"
        open={open}
        onOpenChange={setOpen}
        trigger={<Button title="Running order as a file, or on paper">File</Button>}
      >
        <div className="flex w-44 flex-col gap-1">
          <Button title="All items as a table that a spreadsheet reads" onClick={save}>
            Save as CSV
          </Button>
          <Button title="The running order on paper, in a window of its own" onClick={print}>
            Print…
          </Button>
          <FileButton label="File of a running order" accept=".csv,.tsv,.txt,text/csv" onFile={(file) => void read(file)}>
            Bring in CSV…
          </FileButton>
        </div>
      </Popover>
      {bringing && <Asking bringing={bringing} onClose={() => setBringing(null)} />}
    </>
  );
}
