import type { LiveTextDto } from '@wise-margin/contract';

/** A text whose figures follow the ledger; a figure that changed since the text was accepted says what it was. */
export function LiveText({ text }: { readonly text: LiveTextDto }) {
  return (
    <>
      {text.segments.map(({ text: words, field, was }, at) =>
        field === null ? (
          <span key={at}>{words}</span>
        ) : (
          <span key={at} className={was === null ? '' : 'font-semibold text-brick'} data-field={field}>
            {words}
            {was === null ? null : ` (was ${was})`}
          </span>
        ),
      )}
    </>
  );
}
