import type { QueueItem } from '@/core/uploads/queue';

/** A file on its way in, for tests. */
export const queueItem = (key: string, more: Partial<QueueItem> = {}): QueueItem => ({
  key,
  uploadId: null,
  fileName: `${key}.pdf`,
  sizeBytes: 1000,
  sentBytes: 0,
  placeId: 'p1',
  placeName: 'May',
  relativePath: '',
  title: key,
  remark: '',
  versionOf: null,
  cells: {},
  notSet: [],
  onSameName: null,
  tell: [],
  state: 'waiting',
  issue: null,
  sameContent: [],
  documentId: null,
  readings: [],
  ...more,
});
