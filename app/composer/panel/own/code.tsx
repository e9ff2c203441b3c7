import { type CodeBlock, cleanCode } from "~/core/blocks";

/** What is left out of the HTML as it was written, and why. */
export function CodeLeftOut({ block }: { block: CodeBlock }) {
  const { removed, html } = cleanCode(block);
  const elsewhere = /(src|background)="https?:|url\((&quot;|&#39;)?https?:/.test(html);
  return (
    <>
      {removed.length > 0 ? (
        <div role="status" className="rounded-md bg-amber-wash px-3 py-2 text-amber">
          <p className="font-medium">Left out, because mail programs refuse it or it could do harm:</p>
          <ul className="mt-1 list-disc pl-4">
            {removed.map(({ what, count }) => (
              <li key={what}>
                {what}
                {count > 1 && `, ${count} times`}
              </li>
            ))}
          </ul>
          <p className="mt-1">What you wrote is kept here as it is.</p>
        </div>
      ) : (
        <p className="text-xs text-ink-soft">
          Write inline styles and tables. Scripts, forms and style sheets are left out everywhere. Tags are
          typed: {"{$first_name else=|friend|}"}.
        </p>
      )}
      {elsewhere && (
        <p className="text-xs text-ink-soft">
          Pictures from elsewhere are fetched by readers’ mail programs, not here.
        </p>
      )}
    </>
  );
}
