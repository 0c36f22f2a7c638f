"""A server at a port that answers everything with the given bytes, and may keep what it was asked."""
import socket, sys

port, answer = int(sys.argv[1]), sys.argv[2].encode("utf-8", "surrogateescape")
kept = open(sys.argv[3], "ab") if len(sys.argv) > 3 else None
listener = socket.socket()
listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
listener.bind(("127.0.0.1", port))
listener.listen()
while True:
    client, _ = listener.accept()
    try:
        client.settimeout(2)
        request = client.recv(65536)
        if kept and request:
            kept.write(request)
            kept.flush()
        client.sendall(answer or b"HTTP/1.1 200 OK\r\nContent-Length: 2\r\nConnection: close\r\n\r\nok")
    except OSError:
        pass
    client.close()
