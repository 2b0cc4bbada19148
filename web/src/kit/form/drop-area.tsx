import { Box, Flex, Text } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { Action } from './action.js';

/** A place to drop a file on, or to choose one with the keyboard or the mouse; several where each is taken by itself. */
export function DropArea({
  label,
  children,
  onFile,
  several = false,
  disabled = false,
}: {
  label: string;
  children: ReactNode;
  /** Called for each file. */
  onFile: (file: File) => void;
  several?: boolean;
  disabled?: boolean;
}) {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    multiple: several,
    disabled,
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => files.forEach(onFile),
  });
  return (
    <Box
      {...getRootProps({ role: 'group', 'aria-label': label })}
      border="1px dashed"
      borderColor={isDragActive ? 'accent' : 'quiet'}
      bg="sheet"
      borderRadius="4px"
      px={5}
      py={4}
      opacity={disabled ? 0.6 : 1}
    >
      <input {...getInputProps({ 'aria-label': label })} />
      <Flex gap={5} align="center" wrap="wrap">
        <Action plain onClick={open} disabled={disabled}>
          {several ? 'Choose files' : 'Choose a file'}
        </Action>
        <Text as="div" color="quiet" flex="1" minW="260px">
          {isDragActive
            ? several
              ? 'Let go to drop the files here.'
              : 'Let go to drop the file here.'
            : children}
        </Text>
      </Flex>
    </Box>
  );
}
