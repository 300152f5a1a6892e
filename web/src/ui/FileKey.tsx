/** Which files are asked for. */
interface Props {
  /** What it asks for, in words. */
  label: string;
  /** Media types and endings, as the browser takes them. */
  accept: string;
  /** Not now. */
  disabled?: boolean;
  /** Told of a file that was chosen. */
  onFile: (file: File) => void;
}

/** A key that takes in one file; the same file may be taken again. */
export function FileKey({ label, accept, disabled = false, onFile }: Props) {
  return (
    <label className="key relative flex cursor-pointer items-center justify-center focus-within:outline-3 focus-within:outline-water">
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        disabled={disabled}
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) onFile(file);
          e.target.value = '';
        }}
      />
    </label>
  );
}
