# A person's sign-in: waits for terminals, and starts a shell in each. Read by `su -l PERSON`.
exec 3<> /run/desk
while read -r terminal < /run/desk; do
  # Ctrl-C of a terminal is for what runs in it.
  (trap - INT QUIT; exec setsid --ctty sh /run/terminal < "$terminal" > "$terminal" 2>&1) &
done
