import type { Conditions } from '@/core/views/conditions';

/** The address of all papers that meet some conditions. */
export const allWith = (conditions: Conditions): string =>
  `/all?${new URLSearchParams({ if: JSON.stringify(conditions) }).toString()}`;
