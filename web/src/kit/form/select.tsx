import { Box, chakra } from '@chakra-ui/react';

interface SelectProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly choices: readonly { readonly value: T; readonly text: string }[];
  readonly onChange: (value: T) => void;
  readonly disabled?: boolean;
}

/** A labelled menu in a form. */
export function Select<T extends string>({
  label,
  value,
  choices,
  onChange,
  disabled = false,
}: SelectProps<T>) {
  return (
    <chakra.label display="block" minW={0} maxW="100%" fontSize="13.5px" color="quiet" mt={4}>
      {label}
      <Box>
        <chakra.select
          value={value}
          disabled={disabled}
          onChange={(event) => {
            const chosen = choices.find((choice) => choice.value === event.target.value);
            if (chosen) onChange(chosen.value);
          }}
          bg="sheet"
          color="ink"
          fontSize="15px"
          maxW="100%"
          border="1px solid"
          borderColor="quiet"
          borderRadius="4px"
          px={3}
          py="7px"
        >
          {choices.map((choice) => (
            <option key={choice.value} value={choice.value}>
              {choice.text}
            </option>
          ))}
        </chakra.select>
      </Box>
    </chakra.label>
  );
}
