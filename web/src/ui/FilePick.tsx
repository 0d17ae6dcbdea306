/** The system's own choice of files: opened by a button beside it, found by screen readers under its label. */

export function FilePick(props: {
  ref: React.Ref<HTMLInputElement>;
  label: string;
  accept: string;
  multiple?: boolean;
  onFiles: (files: File[]) => void;
}) {
  const { ref, label, accept, multiple = false, onFiles } = props;
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      multiple={multiple}
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        const files = [...(event.target.files ?? [])];
        if (files.length) onFiles(files);
        // The same file chosen again is chosen too.
        event.target.value = "";
      }}
    />
  );
}
