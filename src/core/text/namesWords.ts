/** Whether a text, as `searchKey` folds it, has words one behind the other; not as a part of longer words. */
export function namesWords(text: string, words: string): boolean {
  const isEdge = (sign: string | undefined) => sign === undefined || !/[\p{L}\p{N}]/u.test(sign);
  if (words === '') return false;
  for (let at = text.indexOf(words); at !== -1; at = text.indexOf(words, at + 1))
    if (isEdge(text[at - 1]) && isEdge(text[at + words.length])) return true;
  return false;
}
