/**
 * An email as its small picture shows it. It may do nothing but be looked at: no scripts run in it, and it fetches what
 * its policy names. It keeps its origin, since browsers give each frame without one a process of its own, and a page of
 * thirty pictures would start thirty.
 */
export function pictureAnswer({ html, policy }: { html: string; policy: string }, seconds: number): Response {
  return new Response(html, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": `${policy}; frame-ancestors 'self'; sandbox allow-same-origin`,
      "cache-control": seconds > 0 ? `private, max-age=${seconds}` : "private, no-cache",
    },
  });
}
