import { naturalCompare } from '../text/natural';
import type { ViewPlace } from '../views/question';

/** The position of each place in depth-first order, siblings in the keeper's order. */
export function treeOrder(places: readonly ViewPlace[]): ReadonlyMap<string, number> {
  const byId = new Map(places.map((place) => [place.id, place]));
  const children = new Map<string, ViewPlace[]>();
  const tops: ViewPlace[] = [];
  for (const place of byId.values()) {
    const parentId = place.lineage.at(-2);
    const beside = parentId !== undefined && byId.has(parentId) ? (children.get(parentId) ?? []) : tops;
    beside.push(place);
    if (beside !== tops && parentId !== undefined) children.set(parentId, beside);
  }
  const order = new Map<string, number>();
  const visit = (beside: ViewPlace[]) => {
    beside.sort((a, b) => a.position - b.position || naturalCompare(a.name, b.name) || (a.id < b.id ? -1 : 1));
    for (const place of beside) {
      order.set(place.id, order.size);
      visit(children.get(place.id) ?? []);
    }
  };
  visit(tops);
  return order;
}
