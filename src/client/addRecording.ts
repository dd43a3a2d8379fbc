'use client';
/** How any page brings in a new over: the layout takes the files. */
import { createContext, useContext } from 'react';

export const AddRecording = createContext<(cardId?: number) => void>(() => {});

/** Opens the file chooser for a new over. */
export const useAddRecording = () => useContext(AddRecording);

export const AddFiles = createContext<(files: readonly File[]) => void>(() => {});

/** Brings in files that the page has made itself. */
export const useAddFiles = () => useContext(AddFiles);
