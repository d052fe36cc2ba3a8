import relay
from relay import Tower, beam  #@use Tower #@use beam
from relay.tower import Mast as Pole

relay.Tower().light()  #@use Tower #@use light
beam(None).climb()  #@use beam #@use climb
Pole().climb()  #@use climb
