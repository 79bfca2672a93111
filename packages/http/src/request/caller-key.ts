import { hash } from 'node:crypto';
import type { Asked } from '../message/asked.js';

/** Callers by the headers that tell them apart: the same text for the same caller, which tells nothing of the headers. */
export const callerKey = (asked: Asked, decidedBy: readonly string[]): string =>
  hash('sha256', JSON.stringify(decidedBy.map((name) => asked.header(name.toLowerCase()))), 'base64url');
