"""How every stand-in is served: on loopback, its port on the first line."""

import argparse
import socket

import uvicorn
from fastapi import FastAPI

LOOPBACK = "127.0.0.1"


def parser() -> argparse.ArgumentParser:
    """What every stand-in is told: its port, 0 = a free one."""
    made = argparse.ArgumentParser()
    made.add_argument("--port", type=int, default=0)
    return made


def serve(app: FastAPI, port: int) -> None:
    """Serve until it is ended."""
    listener = socket.socket()
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    listener.bind((LOOPBACK, port))
    listener.listen(64)
    print(listener.getsockname()[1], flush=True)
    uvicorn.Server(uvicorn.Config(app, log_level="warning")).run(sockets=[listener])
