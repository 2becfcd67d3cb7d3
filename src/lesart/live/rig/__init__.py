"""The rig: stand-ins for devices that ship with Lesart and speak over real channels.

The scale of a hive talks on a pseudo-terminal; the mast answers Modbus on another one and over TCP. What can go wrong
with a device can be asked for: noise, silence, wrong checksums, being pulled out.
"""
