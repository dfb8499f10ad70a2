import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { trayOrders, type Tray } from './model';

const many = z.array(z.uuid()).min(1).max(5000);

/** Questions and acts about disposing of papers. */
export const disposalContract = {
  'papers.dispose': act<{ disposed: number }>()(z.object({ documentIds: many })),
  /** `words`: all of them stand in the title, the name of the place, or of the person. */
  'papers.disposed': ask<Tray>()(
    z.object({
      words: z.string().max(200),
      order: z.enum(trayOrders),
      most: z.number().int().min(1).max(5000),
    }),
  ),
  /** `toId`: another place than the one where they were. */
  'papers.putBack': act<{ restored: number }>()(z.object({ documentIds: many, toId: z.uuid().optional() })),
  /** Destroys papers that lie in the disposal tray. Cannot be undone. */
  'papers.destroy': act<{ destroyed: number }>()(z.object({ documentIds: many })),
};
