export { db } from '@gribo-examples/harbour/src/model.js';
