module.exports = '';
