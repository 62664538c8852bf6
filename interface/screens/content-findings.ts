/** Compares a surface with the picture that was made for its venue: its areas are searched for in a worker, once for each file. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { contentFindings, type Finding } from '#core/screens/checks';
import { type Surface } from '#core/screens/surface';
import { causeOf } from '#core/schema/cause';
import { type FoundAreas } from '#engine/picture/find-shapes';
import { useShow, useShowClient } from '../client/show-client';

/** What was found, by the asset: it is the same for everyone. */
const known = new Map<string, FoundAreas>();

export function useContentFindings(surface: Surface): { findings: Finding[]; busy: boolean; trouble: string; search: () => void } {
  const client = useShowClient();
  const source = useShow(({ desk }) => desk.show.sources.find((s) => s.id === surface.templateId));
  const assetId = source?.settings.kind === 'still' ? source.settings.assetId : null;
  const [found, setFound] = useState<FoundAreas | null>(assetId === null ? null : (known.get(assetId) ?? null));
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState('');
  const search = useCallback(() => {
    if (assetId === null) return;
    setBusy(true);
    client.files
      .findAreas(assetId)
      .then(
        (areas) => {
          known.set(assetId, areas);
          setFound(areas);
          setTrouble('');
        },
        (error: unknown) => setTrouble(`The template cannot be searched: ${causeOf(error)}`),
      )
      .finally(() => setBusy(false));
  }, [client, assetId]);
  useEffect(() => {
    const areas = assetId === null ? null : (known.get(assetId) ?? null);
    setFound(areas);
    if (assetId !== null && !areas) search();
  }, [assetId, search]);
  const name = source?.name ?? '';
  const findings = useMemo(
    () => (found && assetId !== null ? contentFindings(surface, { name, width: found.width, height: found.height }, found.areas) : []),
    [found, assetId, surface, name],
  );
  return { findings, busy, trouble, search };
}
