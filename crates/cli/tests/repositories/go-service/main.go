package main

// #cgo pkg-config: libusb-1.0
import "C"

func main() {}
