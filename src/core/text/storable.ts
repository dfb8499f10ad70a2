/**
 * Text as PostgreSQL keeps it: without NUL, and with the replacement character for halves of a surrogate pair, as they are
 * left where a text was cut or badly encoded (Unicode, section 3.9, D93b).
 */
export const storable = (text: string): string => text.replace(/\0/gu, '').replace(/\p{Cs}/gu, '\ufffd');
