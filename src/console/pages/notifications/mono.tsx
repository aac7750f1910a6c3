/** A text as it is sent, line by line. */
export function Mono({ children }: { children: string }) {
  return (
    <pre className="mt-2 border border-rule bg-paper p-2 font-mono text-[13px] wrap-anywhere whitespace-pre-wrap">
      {children}
    </pre>
  );
}
