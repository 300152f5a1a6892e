interface Props {
  label: string;
  value: string;
  /** Which one it is, for whatever fills passwords in. */
  which: 'current-password' | 'new-password';
  onType: (value: string) => void;
}

/** A password, with its label over it. */
export function PasswordField({ label, value, which, onType }: Props) {
  return (
    <label className="flex flex-col gap-1">
      {label}
      <input
        className="field"
        type="password"
        autoComplete={which}
        value={value}
        onChange={(e) => onType(e.target.value)}
      />
    </label>
  );
}
