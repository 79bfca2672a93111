/**
 * For the tests of an API: exactly what leaves, made-up rows, a server in memory, a contract that stays.
 *
 * @module @gribo/testing
 */
export { type AnswerFor, assertAnswer } from './answer/assert-answer.js';
export { assertContract, type ContractChanges } from './contract/assert-contract.js';
export { type Factory, type FactoryOptions, factory } from './rows/factory.js';
export { assertNothingSealed, type SealedOptions } from './seals/assert-nothing-sealed.js';
export { type Asking, type TestServer, type TestServerOptions, testServer } from './server/test-server.js';
