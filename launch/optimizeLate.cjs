// V8 optimises what has run for a while, on other threads: that pays in a server, and not in a tool that ends after
// seconds. `node --require` of this file has it wait six times as long; NODE_OPTIONS takes no such flag itself.
process.getBuiltinModule('node:v8').setFlagsFromString('--interrupt-budget=400000');
