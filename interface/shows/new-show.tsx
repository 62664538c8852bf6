/** A new show: its name, picture size and rate. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type Raster } from '#core/show/raster';
import { COMMON_RATES } from '#core/time/rate';
import { newShow } from '#engine/storage/shows';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { RasterField } from './raster-field';

/** Asks for name, picture size and rate, makes the show and opens it. */
export function NewShow({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [name, setName] = useState('');
  const [raster, setRaster] = useState<Raster>({ width: 1280, height: 720 });
  const [rate, setRate] = useState('25');
  const navigate = useNavigate();
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () => {
      const chosen = COMMON_RATES.find((c) => c.label === rate)?.rate ?? { num: 25, den: 1 };
      return newShow(name.trim() || 'New show', raster, chosen);
    },
    onSuccess: (id) => {
      void queries.invalidateQueries({ queryKey: ['shows'] });
      void navigate(`/show/${id}/desk`);
    },
  });
  return (
    <Dialog open={open} onClose={onClose} title="New show">
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          make.mutate();
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-muted">Name</span>
          <input autoFocus maxLength={120} value={name} onChange={(e) => setName(e.target.value)} placeholder="New show" />
        </label>
        <div className="flex flex-col gap-1">
          <span className="text-muted">Picture size</span>
          <RasterField value={raster} onChange={setRaster} />
        </div>
        <label className="flex flex-col gap-1">
          <span className="text-muted">Frames a second</span>
          <select className="w-32" value={rate} onChange={(e) => setRate(e.target.value)}>
            {COMMON_RATES.map((c) => (
              <option key={c.label}>{c.label}</option>
            ))}
          </select>
        </label>
        {make.error && (
          <p role="alert" className="text-air">
            {make.error.message}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="straw" type="submit">
            Make and open
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
