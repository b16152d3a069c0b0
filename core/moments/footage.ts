import { tintCells } from '#core/picture';
import { derive, lookColumns, lookHz, lookRows, tintHz, type RawReading } from '#core/readings';
import { photoFootage } from './photo';
import type { Footage } from './types';

/** A reading as the choice sees it. @param id what pieces know the file by */
export function footageOf(id: string, raw: RawReading, isPhoto: boolean): Footage {
  const { traces, runs, hz, tint } = derive(raw);
  const footage: Footage = {
    id,
    durationSeconds: raw.durationSeconds,
    hz,
    traces,
    runs,
    look: { hz: lookHz, cells: lookColumns * lookRows, values: raw.look },
    tint: { hz: tintHz, cells: tintCells, values: tint },
  };
  return isPhoto ? photoFootage(footage) : footage;
}
