import { Box, Text } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';

/** A place to drop one file on, or to choose one with the keyboard or the mouse. */
export function DropArea({
  label,
  children,
  onFile,
  disabled = false,
}: {
  label: string;
  children: ReactNode;
  onFile: (file: File) => void;
  disabled?: boolean;
}) {
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    multiple: false,
    disabled,
    onDrop: ([file]) => {
      if (file) onFile(file);
    },
  });
  return (
    <Box
      {...getRootProps({ role: 'button', 'aria-label': label })}
      border="1px dashed"
      borderColor={isDragActive ? 'accent' : 'quiet'}
      bg="sheet"
      borderRadius="4px"
      px={5}
      py={4}
      cursor={disabled ? 'not-allowed' : 'pointer'}
      opacity={disabled ? 0.6 : 1}
    >
      <input {...getInputProps({ 'aria-label': label })} />
      <Text as="div" color="quiet">
        {isDragActive ? 'Let go to drop the file here' : children}
      </Text>
    </Box>
  );
}
