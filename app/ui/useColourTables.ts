import { useFetcher } from 'react-router';
import type { ColourTable } from '#core/look';
import type { TablesAnswer } from '#usecases/looks';

type Tables = TablesAnswer['tables'];

/** Where a colour table of a project lies, as numbers. */
export const tableAddress = (projectId: string, id: string): string => `/projects/${projectId}/looks?table=${id}`;
/** The table out of what is answered there. */
export function tableFrom(body: unknown): ColourTable {
  const { values, ...rest } = body as Omit<ColourTable, 'values'> & { values: number[] };
  return { ...rest, values: Float32Array.from(values) };
}

/** The colour tables of a project, as they stand after what is brought in and taken out here. */
export function useColourTables(projectId: string, first: Tables) {
  const fetcher = useFetcher<TablesAnswer & { problem: string | null }>();
  const action = `/projects/${projectId}/looks`;
  const { data } = fetcher;
  return {
    tables: data?.tables ?? first,
    /** The one that was brought in last. */
    added: data?.added ?? null,
    problem: data?.problem ?? null,
    isBusy: fetcher.state !== 'idle',
    bringIn(file: File | undefined) {
      if (!file) return;
      const form = new FormData();
      form.set('file', file);
      void fetcher.submit(form, { method: 'post', action, encType: 'multipart/form-data' });
    },
    takeOut: (id: string) => void fetcher.submit({ remove: id }, { method: 'post', action }),
  };
}
