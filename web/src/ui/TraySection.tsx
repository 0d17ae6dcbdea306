/** A part of the Tray: a heading, a line that explains, and its contents. */
import type { ReactNode } from "react";

export function TraySection({
  title,
  about,
  children,
}: {
  title?: string;
  about?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <section className="mb-6">
      {title && <h2 className="font-bold">{title}</h2>}
      {about && <p className="mt-0.5 text-dim">{about}</p>}
      <div className="mt-2.5 space-y-2">{children}</div>
    </section>
  );
}
