import { placeAddress } from '@/core/places/common';
import type { PlacePage } from '@/core/places/model';

type Around = Pick<PlacePage, 'place' | 'path' | 'withinId'>;

/** The dossier in which a page's place lies, or through which it is looked at. */
const dossierOf = ({ place, path }: Around): string | null =>
  place.kind === 'dossier' ? place.id : (path.find((step) => step.kind === 'dossier')?.id ?? null);

/** The address of a place in the one whose page is open: what is common is looked at by way of the dossier. */
export const childAddress = (page: Around, child: { readonly id: string; readonly commonTo: number | null }): string =>
  placeAddress(child.id, child.commonTo !== null || page.withinId !== null ? dossierOf(page) : null);

/** The address of a step on the way to a page's place. */
export const stepAddress = ({ withinId }: Around, step: { readonly id: string; readonly kind: string }): string =>
  placeAddress(step.id, step.kind === 'folder' ? withinId : null);
