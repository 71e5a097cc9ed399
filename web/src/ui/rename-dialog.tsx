import { NameDialog } from "./name-dialog";

interface Props {
  /** What is renamed. */
  what?: "design" | "bed";
  name: string;
  onClose: () => void;
  onRename: (name: string) => Promise<unknown>;
}

export function RenameDialog({ what = "design", name, onClose, onRename }: Props) {
  return (
    <NameDialog
      title={`Rename the ${what}`}
      name={name}
      action="Rename"
      onClose={onClose}
      onName={onRename}
    />
  );
}
