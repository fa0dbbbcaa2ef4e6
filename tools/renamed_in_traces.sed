s/freelook_(yaw|pitch)_deg/glance_\1_deg/g
s/recentre_deg/swing_back_deg/g
s/recentre-(began|ended)/swing-back-\1/g
s/^recentre$/swing-back/
