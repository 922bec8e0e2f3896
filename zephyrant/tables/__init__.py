"""Tables of loans as files, and solved from end to end. What only some kinds of files need is
loaded with the first of them."""
