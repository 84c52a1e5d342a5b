/** What went wrong, in words, where it went wrong. */
export function Problem({ words }: { words: string | null | undefined }) {
  return (
    words && (
      <p role="alert" className="mt-2 border-l-4 border-warn pl-3 text-warn">
        {words}
      </p>
    )
  );
}
