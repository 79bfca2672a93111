import { GriboError } from 'gribo';

/** Milliseconds that a server may take to answer. */
export const PATIENCE = 10_000;

/** Loads a driver: those that are not used need not be there. */
export const driver = async <T>(name: string): Promise<T> => {
  try {
    // The package's own types say what it exports.
    return (await import(name)) as T;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ERR_MODULE_NOT_FOUND') throw error;
    const message = `The package ${name} is needed for this database: npm install ${name}`;
    throw new GriboError('DATABASE', name, message);
  }
};
