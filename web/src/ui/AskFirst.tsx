/** What is asked before something goes. */
import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

export function AskFirst(props: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  action: string;
  onAction: () => void;
}) {
  return (
    <AlertDialog.Root open={props.open} onOpenChange={(open) => !open && props.onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[420px] -translate-x-1/2 -translate-y-1/2 rounded-lg border border-line bg-page p-6 shadow-xl">
          <AlertDialog.Title className="text-[16px] font-bold">{props.title}</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-2 space-y-1 text-dim">{props.children}</div>
          </AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Keep it</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button kind="danger" onClick={props.onAction}>
                {props.action}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
