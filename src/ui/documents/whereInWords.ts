import { counted } from '@/core/text/measure';

/** Where papers go: the name of one place, the number of several. */
export const whereInWords = (places: readonly { readonly name: string }[]): string =>
  places.length === 1 ? (places[0]?.name ?? '') : counted(places.length, 'place');
