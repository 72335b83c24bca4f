import { hourSteps, minuteSteps, type Schedule } from '@basileus/core/change';
import { say } from './text';
import { tell } from './tell';

const days = [say`Monday`, say`Tuesday`, say`Wednesday`, say`Thursday`, say`Friday`, say`Saturday`, say`Sunday`];

const beginnings: Readonly<Partial<Record<string, (at: string) => Schedule>>> = {
  minutes: () => ({ every: 'minutes', minutes: 15 }),
  hours: (at) => ({ every: 'hours', hours: 1, at }),
  workday: (at) => ({ every: 'workday', at }),
  day: (at) => ({ every: 'day', at }),
  week: (at) => ({ every: 'week', weekday: 1, at }),
  month: (at) => ({ every: 'month', day: 1, at }),
};

/** When something is done again: by hand, some times an hour or a day, or every day, week or month at a time. */
export function ScheduleField({
  schedule,
  what,
  onChange,
}: {
  schedule: Schedule | null;
  /** What is done, such as “asked”. */
  what: string;
  onChange: (schedule: Schedule | null) => void;
}) {
  const begin = (every: string) => {
    const at = schedule && 'at' in schedule ? schedule.at : '06:00';
    onChange(beginnings[every]?.(at) ?? null);
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <select
        className="select select-sm w-44"
        aria-label={say`When it is ${what}`}
        value={schedule?.every ?? ''}
        onChange={(e) => {
          begin(e.target.value);
        }}
      >
        <option value="">{tell`${what} by hand`}</option>
        <option value="minutes">{tell`${what} some times an hour`}</option>
        <option value="hours">{tell`${what} some times a day`}</option>
        <option value="day">{tell`${what} every day`}</option>
        <option value="workday">{tell`${what} from Monday to Friday`}</option>
        <option value="week">{tell`${what} every week`}</option>
        <option value="month">{tell`${what} every month`}</option>
      </select>
      {schedule?.every === 'minutes' && (
        <select
          className="select select-sm w-44"
          aria-label={say`Minutes between`}
          value={schedule.minutes}
          onChange={(e) => {
            onChange({ ...schedule, minutes: minuteSteps.find((m) => String(m) === e.target.value) ?? 15 });
          }}
        >
          {minuteSteps.map((m) => (
            <option key={m} value={m}>
              {say`every ${m} minutes`}
            </option>
          ))}
        </select>
      )}
      {schedule?.every === 'hours' && (
        <select
          className="select select-sm w-36"
          aria-label={say`Hours between`}
          value={schedule.hours}
          onChange={(e) => {
            onChange({ ...schedule, hours: hourSteps.find((h) => String(h) === e.target.value) ?? 1 });
          }}
        >
          {hourSteps.map((h) => (
            <option key={h} value={h}>
              {h === 1 ? say`every hour` : say`every ${h} hours`}
            </option>
          ))}
        </select>
      )}
      {schedule?.every === 'week' && (
        <select
          className="select select-sm w-36"
          aria-label={say`Day of the week`}
          value={schedule.weekday}
          onChange={(e) => {
            onChange({ ...schedule, weekday: Number(e.target.value) });
          }}
        >
          {days.map((d, i) => (
            <option key={d} value={i + 1}>
              {d}
            </option>
          ))}
        </select>
      )}
      {schedule?.every === 'month' && (
        <label className="flex items-center gap-1">
          {say`on day`}
          <input
            className="input input-sm num w-16"
            type="number"
            min={1}
            max={31}
            value={schedule.day}
            onChange={(e) => {
              onChange({ ...schedule, day: Math.min(31, Math.max(1, Number(e.target.value) || 1)) });
            }}
          />
        </label>
      )}
      {schedule && 'at' in schedule && (
        <label className="flex items-center gap-1">
          {say`at`}
          <input
            className="input input-sm num w-28"
            type="time"
            required
            value={schedule.at}
            onChange={(e) => {
              if (e.target.value !== '') onChange({ ...schedule, at: e.target.value });
            }}
          />
        </label>
      )}
    </div>
  );
}
