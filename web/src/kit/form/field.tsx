import { Box, chakra } from '@chakra-ui/react';
import { useId, type ComponentProps } from 'react';

type FieldProps = ComponentProps<typeof chakra.input> & {
  readonly label: string;
  readonly hint?: string;
  readonly problem?: string | undefined;
};

/** A labelled line to type in, with what is wrong under it. */
export function Field({ label, hint, problem, ...input }: FieldProps) {
  // Forms of one page may have fields of the same name.
  const id = useId();
  return (
    <Box mt={4}>
      <chakra.label htmlFor={id} display="block" fontSize="13.5px" color="quiet">
        {label}
      </chakra.label>
      <chakra.input
        id={id}
        w="100%"
        maxW="340px"
        bg="sheet"
        border="1px solid"
        borderColor={problem ? 'fails' : 'quiet'}
        borderRadius="4px"
        px={3}
        py="7px"
        aria-invalid={problem !== undefined}
        aria-describedby={problem || hint ? `${id}-note` : undefined}
        {...input}
      />
      {problem || hint ? (
        <Box
          id={`${id}-note`}
          fontSize="13px"
          color={problem ? 'fails' : 'quiet'}
          role={problem ? 'alert' : undefined}
        >
          {problem ?? hint}
        </Box>
      ) : null}
    </Box>
  );
}
