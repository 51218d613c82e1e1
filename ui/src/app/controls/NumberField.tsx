import TextField from '@mui/material/TextField';

interface NumberProps {
  label: string;
  value: number;
  onChange: (value: number) => void;
  least?: number;
}

export function NumberField({ label, value, onChange, least = 1 }: NumberProps) {
  return (
    <TextField
      label={label}
      type="number"
      size="small"
      value={value}
      slotProps={{ htmlInput: { min: least } }}
      onChange={(event) => onChange(Number(event.target.value))}
    />
  );
}
