import { Choose, type Option } from "../ui/choose";
import { useAddress } from "../ui/use-address";

/** Narrows a list down by a part of the page's address. */
export function Filter({
  name,
  label,
  all,
  options,
}: {
  name: string;
  label: string;
  /** What it says while it narrows nothing. */
  all: string;
  options: readonly (string | Option)[];
}) {
  const [params, change] = useAddress();
  return (
    <Choose
      label={label}
      className="w-40! max-sm:w-[calc(50%-0.25rem)]!"
      value={params.get(name) ?? "all"}
      options={[
        { value: "all", label: all },
        ...options.map((one) => (typeof one === "string" ? { value: one, label: one } : one)),
      ]}
      onChange={(next) => change({ [name]: next === "all" ? null : next })}
    />
  );
}
