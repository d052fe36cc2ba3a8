module example.test/rescue

go 1.26
