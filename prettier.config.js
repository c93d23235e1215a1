export default { singleQuote: true, printWidth: 120, trailingComma: 'all' };
