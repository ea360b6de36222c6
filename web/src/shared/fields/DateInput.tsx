import { AdapterDayjs } from "@mui/x-date-pickers/AdapterDayjs";
import { DatePicker } from "@mui/x-date-pickers/DatePicker";
import { LocalizationProvider } from "@mui/x-date-pickers/LocalizationProvider";
import dayjs from "dayjs";

interface Props {
  label: string;
  /** Its label is not seen: what stands before it says what it is. */
  bare?: boolean;
  required?: boolean;
  error?: boolean;
  helperText?: string;
  value: string;
  change: (value: string) => void;
  min?: string;
  max?: string;
}

/** A day, written 2026-03-01 and typed or chosen so. */
export function DateInput({
  label,
  bare = false,
  required = false,
  error = false,
  helperText = "",
  value,
  change,
  min = "",
  max = "",
}: Props) {
  const day = (text: string) => (text === "" ? null : dayjs(text, "YYYY-MM-DD"));
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <DatePicker
        label={label}
        format="YYYY-MM-DD"
        value={day(value)}
        {...(min && { minDate: dayjs(min) })}
        {...(max && { maxDate: dayjs(max) })}
        onChange={(d) => {
          if (d === null) change("");
          else if (d.isValid()) change(d.format("YYYY-MM-DD"));
        }}
        slotProps={{
          textField: {
            ...{ size: "small", required, error, helperText },
            ...(bare && { className: "bare-date", slotProps: { inputLabel: { shrink: true } } }),
          },
          field: { clearable: true },
        }}
      />
    </LocalizationProvider>
  );
}
