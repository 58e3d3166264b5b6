import * as RadioGroup from "@radix-ui/react-radio-group";
import type { ChoiceProps } from "./fields";

/** A few choices side by side, all to be seen at once; arrow keys go from one to the next. */
export function Pick<T extends string>({
  value,
  options,
  onCommit,
  name,
  small,
}: Omit<ChoiceProps<T>, "blank" | "className"> & { small?: boolean }) {
  return (
    <RadioGroup.Root
      aria-label={name}
      className="join flex-wrap"
      orientation="horizontal"
      value={value}
      onValueChange={(chosen) => {
        const option = options.find(([id]) => id === chosen);
        if (option) onCommit(option[0]);
      }}
    >
      {options.map(([id, words]) => (
        <RadioGroup.Item
          key={id}
          value={id}
          data-walk={value === id || (value === "" && id === options[0]?.[0]) ? "" : undefined}
          className={`btn join-item ${small ? "btn-sm px-2.5" : ""} ${value === id ? "btn-primary" : "bg-base-100"}`}
        >
          {words}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
