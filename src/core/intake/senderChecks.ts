/** What a receiving mail server found out about who sent a mail: by SPF (RFC 7208), DKIM (RFC 6376) or DMARC (RFC 7489). */
export interface SenderCheck {
  readonly method: 'spf' | 'dkim' | 'dmarc';
  /** As the server says it: “pass”, “fail”, “softfail”, “none”, “temperror” and so on. */
  readonly result: string;
  /** Of whom that is said: a domain or an address; '' where the server does not say. */
  readonly about: string;
}

const methods: readonly SenderCheck['method'][] = ['spf', 'dkim', 'dmarc'];
/** By which each names whom it is about (RFC 8601, 2.7). */
const aboutBy: Readonly<Record<SenderCheck['method'], readonly string[]>> = {
  spf: ['smtp.mailfrom', 'smtp.helo'],
  dkim: ['header.d', 'header.i'],
  dmarc: ['header.from'],
};
/** So many results of a mail are kept at most. */
const mostChecks = 20;

/** A field without its comments, which may stand in each other (RFC 5322, 3.2.2). */
function withoutComments(field: string): string {
  let plain = '';
  let depth = 0;
  let isQuoted = false;
  for (let at = 0; at < field.length; at += 1) {
    const letter = field.charAt(at);
    if (letter === '\\' && (isQuoted || depth > 0)) {
      if (depth === 0) plain += letter + field.charAt(at + 1);
      at += 1;
    } else if (depth === 0 && letter === '"') {
      isQuoted = !isQuoted;
      plain += letter;
    } else if (!isQuoted && letter === '(') depth += 1;
    else if (!isQuoted && letter === ')' && depth > 0) depth -= 1;
    else if (depth === 0) plain += letter;
  }
  return plain;
}

const unquoted = (text: string): string => text.replace(/^"(?<inner>[^"]*)"$/u, '$<inner>');

/**
 * What a mail server that is trusted wrote of a mail's sender into its head (RFC 8601). What bears another server's name was
 * written by nobody knows whom, and is left out: the server itself takes away what came with its own name (section 5).
 * @param fields the values of all `Authentication-Results`, the uppermost first
 * @param server the name under which the trusted server writes; '' for none
 */
export function senderChecks(fields: readonly string[], server: string): SenderCheck[] {
  if (server === '') return [];
  const known = new Set<SenderCheck['method']>();
  const checks = fields.flatMap((field) => {
    const [head = '', ...results] = withoutComments(field).split(/;(?=(?:[^"]*"[^"]*")*[^"]*$)/u);
    const name = unquoted(head.trim().split(/\s+/u)[0] ?? '');
    if (name.toLowerCase() !== server.toLowerCase()) return [];
    // A server writes above what came: where it does not take away what bears its name, the uppermost is its own. DMARC, which settles
    // the others, is believed of that alone.
    const its = results
      .flatMap(resultIn)
      .filter(({ method }) => !known.has(method) && (known.size === 0 || method !== 'dmarc'));
    for (const { method } of its) known.add(method);
    return its;
  });
  return checks.slice(0, mostChecks);
}

function resultIn(text: string): SenderCheck[] {
  const found = /^\s*(?<method>[\w-]+)(?:\s*\/\s*\d+)?\s*=\s*(?<result>[a-z]+)/iu.exec(text)?.groups;
  const method = methods.find((each) => each === found?.['method']?.toLowerCase());
  if (!method) return [];
  const said = new Map(
    [...text.matchAll(/(?<type>[a-z]+)\s*\.\s*(?<name>[\w-]+)\s*=\s*(?<value>"[^"]*"|[^\s;]+)/giu)].map(
      ({ groups }) => [
        `${groups?.['type'] ?? ''}.${groups?.['name'] ?? ''}`.toLowerCase(),
        unquoted(groups?.['value'] ?? ''),
      ],
    ),
  );
  const about = aboutBy[method].map((each) => said.get(each)).find((each) => each !== undefined) ?? '';
  return [{ method, result: (found?.['result'] ?? '').toLowerCase().slice(0, 20), about: about.slice(0, 320) }];
}

/**
 * Whether the checks speak against the sender: DMARC failed; or, where it was not looked at, neither of the others passed though
 * one of them was looked at.
 */
export function isDoubtful(checks: readonly SenderCheck[]): boolean {
  const of = (method: SenderCheck['method']) => checks.filter((each) => each.method === method);
  const dmarc = of('dmarc').filter(({ result }) => result === 'pass' || result === 'fail');
  if (dmarc.length > 0) return dmarc.every(({ result }) => result === 'fail');
  const others = [...of('spf'), ...of('dkim')];
  return others.some(({ result }) => /fail/u.test(result)) && !others.some(({ result }) => result === 'pass');
}

/** “SPF pass for gull.example, DKIM fail”. */
export const checksInWords = (checks: readonly SenderCheck[]): string =>
  checks
    .map(({ method, result, about }) => `${method.toUpperCase()} ${result}${about === '' ? '' : ` for ${about}`}`)
    .join(', ');
