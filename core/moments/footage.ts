import { derive, lookColumns, lookHz, lookRows, type RawReading } from '#core/readings';
import { photoFootage } from './photo';
import type { Footage } from './types';

/** A reading as the choice sees it. @param id what pieces know the file by */
export function footageOf(id: string, raw: RawReading, isPhoto: boolean): Footage {
  const { traces, runs, hz } = derive(raw);
  const footage: Footage = {
    id,
    durationSeconds: raw.durationSeconds,
    hz,
    traces,
    runs,
    look: { hz: lookHz, cells: lookColumns * lookRows, values: raw.look },
  };
  return isPhoto ? photoFootage(footage) : footage;
}
