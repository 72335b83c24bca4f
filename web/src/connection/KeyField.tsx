import { useId } from 'react';
import { localeNow } from '@basileus/core/text';
import { say } from '../ui/text';

/** The key that a market knows us by: typed and kept, never shown again. */
export function KeyField({
  secret,
  since,
  onChange,
  isPair = false,
}: {
  secret: string;
  /** When the key that is kept was given; null where none is, undefined where there cannot be one yet. */
  since?: string | null;
  onChange: (secret: string) => void;
  /** What is kept is the private half of a key pair. */
  isPair?: boolean;
}) {
  const id = useId();
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-sm">
        {say`Key that the market gave you`}
      </label>
      <input
        id={id}
        type="password"
        autoComplete="off"
        spellCheck={false}
        className="input input-sm num w-full"
        value={secret.startsWith('-') ? '' : secret}
        placeholder={since ? say`Kept; type to replace it` : ''}
        onChange={(e) => {
          onChange(e.target.value.trim());
        }}
      />
      {since !== undefined && (
        <p className="quiet text-sm">
          {since === null
            ? say`No key is kept; the market takes nothing without one.`
            : say`${isPair ? say`The private half of a key pair` : say`A key`} has been kept since ${new Date(since).toLocaleDateString(localeNow(), { dateStyle: 'medium' })}. It is not shown again, and forgotten when the address leads to another house.`}
        </p>
      )}
    </div>
  );
}
