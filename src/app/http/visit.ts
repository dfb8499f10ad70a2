import { refuse } from '@/core/errors/refusal';
import { config } from '@/server/base/config';
import { visitorOf, type Visitor } from '@/server/outside/visit';
import { sha256Hex } from '@/server/base/sha256';

/** The name of the cookie that holds a visit to one link: several can be open in one browser. */
export const visitCookie = (token: string): string => `embrin-visit-${sha256Hex(token).slice(0, 12)}`;

/** Sets a visit, for this browser and its own requests alone. */
export function visitHeader(token: string, visit: string, until: Date): string {
  const secure = config().EMBRIN_URL.startsWith('https:') ? '; Secure' : '';
  return `${visitCookie(token)}=${visit}; Path=/; Expires=${until.toUTCString()}; HttpOnly; SameSite=Lax${secure}`;
}

/** Who asks by an outside link that they have opened; refused as gone otherwise. */
export async function requireVisitor(request: Request, token: string): Promise<Visitor> {
  const cookies = new Map(
    (request.headers.get('cookie') ?? '').split(/;\s*/u).map((each) => {
      const at = each.indexOf('=');
      return [each.slice(0, at), each.slice(at + 1)] as const;
    }),
  );
  const visit = cookies.get(visitCookie(token));
  return (visit === undefined ? null : await visitorOf(token, visit)) ?? refuse('gone');
}
