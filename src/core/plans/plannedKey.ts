/** Reads the key of a folder made by a plan: the planned folder's id and, after a space, the year or meeting. */
export function readPlannedKey(key: string): { readonly folderId: string; readonly meetingId: string | null } {
  const madeFor = key.slice(uuidLength + 1);
  return { folderId: key.slice(0, uuidLength), meetingId: madeFor.length === uuidLength ? madeFor : null };
}
const uuidLength = 36;
