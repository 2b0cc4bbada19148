import { chakra } from '@chakra-ui/react';

/** A field for a text of several lines. */
export function TextArea({
  label,
  value,
  onChange,
  rows = 2,
  placeholder,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  rows?: number;
  placeholder?: string;
}) {
  return (
    <chakra.textarea
      display="block"
      w="100%"
      maxW="72ch"
      bg="sheet"
      border="1px solid"
      borderColor="quiet"
      borderRadius="4px"
      px={3}
      py={2}
      mt={2}
      fontSize="14.5px"
      rows={rows}
      aria-label={label}
      placeholder={placeholder}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
