export default { printWidth: 110 };
