import { useQuery } from '@tanstack/react-query';
import { viewForm, type ViewForm } from '@/core/reading/form';
import type { Source } from './source';

/** The view of a paper that has one: its sheets, its mail, its list. */
export function useViewForm<F extends ViewForm['form']>(source: Source, form: F) {
  const address = source.address({ form: 'view' });
  return useQuery({
    queryKey: ['view form', address],
    staleTime: Infinity,
    queryFn: async (): Promise<Extract<ViewForm, { form: F }>> => {
      const response = await fetch(address);
      if (!response.ok) throw new Error(String(response.status));
      const view = viewForm.parse(await response.json());
      if (view.form !== form) throw new Error(`It is shown as ${view.form}`);
      return view as Extract<ViewForm, { form: F }>;
    },
  });
}
