import type { Conditions } from '@/core/views/conditions';
import type { Grouping, Sort } from '@/core/views/spec';

/** What of a view goes with it when it is taken away. */
export interface TakenView {
  readonly placeId: string;
  readonly below: boolean;
  readonly filter: string;
  readonly conditions: Conditions;
  readonly groupings: readonly Grouping[];
  readonly sorts: readonly Sort[];
  readonly columns: readonly string[];
  readonly name: string;
}

/** Has the browser fetch a view as a file, by a form: it streams to the disk, and a refusal comes as a page of its own. */
export function downloadView(form: 'csv' | 'xlsx', { placeId, ...view }: TakenView): void {
  const sent = document.createElement('form');
  sent.method = 'post';
  sent.action = `/api/view/${placeId}`;
  const add = (name: string, value: string) => {
    const field = document.createElement('input');
    field.type = 'hidden';
    field.name = name;
    field.value = value;
    sent.append(field);
  };
  add('form', form);
  add('view', JSON.stringify(view));
  document.body.append(sent);
  sent.submit();
  sent.remove();
}
