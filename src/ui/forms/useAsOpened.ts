import { useState } from 'react';

/**
 * A value as it was when its form was opened. Screens stay up to date while a form is open; what it sends has to say which
 * state was seen, so that a change by someone else is a conflict, and never overwritten unseen.
 */
export function useAsOpened<T>(value: T): T {
  return useState(() => value)[0];
}
