import { useEffect, useRef, useState } from 'react';

/** Time without a key after which what was typed is passed on. */
const quietMs = 200;

/**
 * A search that narrows what is shown as one types. What is typed stays in the box; it is passed on when the keys rest, or
 * at once with Enter or on leaving, so that the address it goes into never takes a letter back.
 */
export function SearchBox({
  label,
  placeholder = label,
  width = 'w-52',
  value,
  onChange,
}: {
  label: string;
  placeholder?: string;
  width?: string;
  value: string;
  onChange: (text: string) => void;
}) {
  const [text, setText] = useState(value);
  /** What was passed on and has not come back yet: it comes back late, and then is not news. */
  const onTheWay = useRef<string[]>([]),
    last = useRef(value);
  useEffect(() => {
    const at = onTheWay.current.indexOf(value);
    if (at >= 0) onTheWay.current.splice(0, at + 1);
    else if (value !== last.current) {
      last.current = value;
      setText(value);
    }
  }, [value]);
  const passOn = useRef(onChange);
  useEffect(() => {
    passOn.current = onChange;
  });
  const give = (t: string) => {
    if (t === last.current) return;
    last.current = t;
    onTheWay.current.push(t);
    passOn.current(t);
  };
  useEffect(() => {
    const timer = setTimeout(() => {
      give(text);
    }, quietMs);
    return () => {
      clearTimeout(timer);
    };
  }, [text]);
  return (
    <input
      type="search"
      className={`input input-sm ${width}`}
      aria-label={label}
      placeholder={placeholder}
      value={text}
      onChange={(e) => {
        setText(e.target.value);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') give(text);
      }}
      onBlur={() => {
        give(text);
      }}
    />
  );
}
