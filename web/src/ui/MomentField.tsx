/** A day and a time of this place. */
export function MomentField({
  label,
  value,
  onChange,
}: {
  label: string;
  /** As the browser writes it: `2026-11-30T09:00`. */
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="block">
      <span className="quiet text-xs">{label}</span>
      <input
        data-first
        type="datetime-local"
        required
        className="input input-sm num block w-56"
        min={toMoment(new Date())}
        value={value}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
    </label>
  );
}

/** A moment as the field takes it, by the clock of this place: `2026-11-30T09:00`. */
export function toMoment(at: Date): string {
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`;
}
